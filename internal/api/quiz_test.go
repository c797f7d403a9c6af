package api

import (
	"encoding/json"
	"fmt"
	"testing"

	"obturon/core/quiz"
	"obturon/internal/document"
)

func TestALearnersAnswersAreGradedAndKept(t *testing.T) {
	here := practiceOf(t)
	_, learner := member(t, here, document.Learner)
	_, teacher := member(t, here, document.Teacher)
	named := 0
	for number := 1; named < 3; number++ {
		at := fmt.Sprintf("/api/study/46/quiz?age=20&question=%d", number)
		_, body := learner.send("GET", at, "")
		var q QuizQuestion
		if err := json.Unmarshal([]byte(body), &q); err != nil {
			t.Fatal(body)
		}
		if q.Kind != quiz.Name {
			continue
		}
		named++
		if len(q.Choices) < 3 || len(q.Mark) != 3 {
			t.Errorf("question %d: %+v", number, q)
		}
		rights := 0
		for _, choice := range q.Choices {
			status, body := learner.send("POST", at, fmt.Sprintf(`{"choice":%q}`, choice))
			var g QuizGrade
			if err := json.Unmarshal([]byte(body), &g); status != 200 || err != nil {
				t.Fatalf("answers %d %s", status, body)
			}
			if g.Right {
				rights++
			}
		}
		if rights != 1 {
			t.Errorf("question %d: %d of its choices are right", number, rights)
		}
		if status, body := learner.send("POST", at, `{"mm":1}`); status != 422 {
			t.Errorf("a figure for a name answers %d %s", status, body)
		}
	}
	for name, c := range map[string]client{"the learner": learner, "the teacher": teacher} {
		_, body := c.send("GET", "/api/quiz/results", "")
		var all []QuizResults
		if err := json.Unmarshal([]byte(body), &all); err != nil || len(all) != 1 || all[0].Own != (name == "the learner") || all[0].Kinds[0].Asked != named {
			t.Errorf("%s sees %s", name, body)
		}
	}
}
