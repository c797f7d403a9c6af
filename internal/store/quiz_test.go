package store

import (
	"context"
	"testing"
)

func TestAQuestionCountsOnceAndForThoseWhoMaySee(t *testing.T) {
	ctx, dentist := context.Background(), clinic(t)
	learner, other := colleague(t, dentist, "learner"), colleague(t, dentist, "learner")
	for _, r := range []QuizResult{
		{UserID: learner.ID, Question: 1, Kind: "name", Right: true},
		{UserID: learner.ID, Question: 1, Kind: "name"}, // again
		{UserID: learner.ID, Question: 2, Kind: "name"},
		{UserID: other.ID, Question: 1, Kind: "touch", Right: true},
	} {
		r.Tooth, r.AgeYears = "46", 34
		if err := testStore.KeepQuizResult(ctx, r); err != nil {
			t.Fatal(err)
		}
	}
	own, err := testStore.QuizTallies(ctx, Reach{Practice: dentist.PracticeID, User: learner.ID})
	if err != nil || len(own) != 1 || own[0].Asked != 2 || own[0].Right != 1 || own[0].Kind != "name" {
		t.Errorf("the learner's own: %+v, %v", own, err)
	}
	all, err := testStore.QuizTallies(ctx, Reach{Practice: dentist.PracticeID, User: other.ID, Roles: []string{"learner"}})
	if err != nil || len(all) != 2 || all[0].UserID != other.ID {
		t.Errorf("all learners', one's own first: %+v, %v", all, err)
	}
	if none, err := testStore.QuizTallies(ctx, Reach{Practice: clinic(t).PracticeID, User: learner.ID, All: true}); err != nil || len(none) != 0 {
		t.Errorf("another practice's: %+v, %v", none, err)
	}
}
