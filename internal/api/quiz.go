package api

import (
	"context"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/intake"
	"obturon/core/quiz"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// asked is a question of the quiz with the tooth it is about.
func (s *server) asked(tooth string, age float64, number int) (quiz.Question, plan.Study, error) {
	study, err := studyOf(tooth, age, nil, nil, nil, nil)
	if err != nil {
		return quiz.Question{}, study, err
	}
	m, err := s.Planner.StudyModel(study)
	if err != nil {
		return quiz.Question{}, study, notShown(err)
	}
	return quiz.Ask(m, uint64(number)), study, nil
}

// AskQuiz asks about a tooth.
func (s *server) AskQuiz(_ context.Context, r AskQuizRequestObject) (AskQuizResponseObject, error) {
	q, _, err := s.asked(r.Tooth, r.Params.Age, r.Params.Question)
	if err != nil {
		return nil, err
	}
	answer := AskQuiz200JSONResponse{
		Question:   r.Params.Question,
		Kind:       q.Kind,
		Text:       q.Text,
		Choices:    append([]string{}, q.Choices...),
		SeeThrough: q.SeeThrough,
	}
	if q.Mark != nil {
		answer.Mark = document.Triple(*q.Mark)
	}
	return answer, nil
}

// AnswerQuiz grades an answer and keeps it.
func (s *server) AnswerQuiz(ctx context.Context, r AnswerQuizRequestObject) (AnswerQuizResponseObject, error) {
	q, study, err := s.asked(r.Tooth, r.Params.Age, r.Params.Question)
	if err != nil {
		return nil, err
	}
	given := quiz.Answer{Choice: r.Body.Choice, MM: r.Body.Mm}
	if p := r.Body.Point; len(p) > 0 {
		given.Point = &r3.Vec{X: p[0], Y: p[1], Z: p[2]}
	}
	g, err := q.Grade(given)
	if err != nil {
		return nil, unprocessable("The answer does not fit the question", intake.Faults{{Path: "$", Message: err.Error()}})
	}
	err = s.Store.KeepQuizResult(ctx, store.QuizResult{
		UserID: currentUser(
			ctx,
		).ID, Tooth: study.Tooth.String(), AgeYears: study.AgeYears, Question: r.Params.Question, Kind: string(q.Kind), Right: g.Right,
	})
	if err != nil {
		return nil, err
	}
	return AnswerQuiz200JSONResponse{Right: g.Right, Says: g.Says, At: document.Triple(g.At)}, nil
}

// ListQuizResults counts what was answered.
func (s *server) ListQuizResults(ctx context.Context, _ ListQuizResultsRequestObject) (ListQuizResultsResponseObject, error) {
	u := currentUser(ctx)
	tallies, err := s.Store.QuizTallies(ctx, reachOf(u))
	if err != nil {
		return nil, err
	}
	answer := ListQuizResults200JSONResponse{}
	for n, t := range tallies {
		if n == 0 || tallies[n-1].UserID != t.UserID {
			answer = append(answer, QuizResults{Name: t.Name, Own: t.UserID == u.ID})
		}
		last := &answer[len(answer)-1]
		last.Kinds = append(last.Kinds, QuizTally{Kind: quiz.Kind(t.Kind), Asked: t.Asked, Right: t.Right})
	}
	return answer, nil
}
