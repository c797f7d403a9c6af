package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"strings"
	"time"

	"obturon/core/assess"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/solid"
	"obturon/internal/plan"
	"obturon/internal/store"
)

const (
	usualPage = 50 // cases
	// draftRests is how long a draft is left alone before the day sheet plans it: it is
	// saved at every pause of the hand.
	draftRests = 2 * time.Second
	// othersRest is how long nobody has asked for a computation when a draft is planned.
	othersRest = 300 * time.Millisecond
	// lookAgain is how often drafts are looked for that were saved by another program.
	lookAgain = 30 * time.Second
)

// ListCases is a page of the day sheet, or of the archive.
func (s *server) ListCases(ctx context.Context, r ListCasesRequestObject) (ListCasesResponseObject, error) {
	u := currentUser(ctx)
	page := store.Page{Size: usualPage, Core: pipeline.CoreVersion, Verdicts: assess.WorstFirst}
	if r.Params.Size != nil {
		page.Size = *r.Params.Size
	}
	if r.Params.Page != nil {
		page.Number = *r.Params.Page - 1
	}
	if r.Params.Order != nil {
		page.Order = store.Order(*r.Params.Order)
	}
	page.Archived = r.Params.Archived != nil && *r.Params.Archived
	if r.Params.Q != nil {
		page.Words = wordsOf(*r.Params.Q)
	}
	cases, err := s.Store.Cases(ctx, reachOf(u), page)
	if err != nil {
		return nil, err
	}
	answer := ListCases200JSONResponse{Cases: []CaseSummary{}}
	for _, c := range cases {
		summary, err := summaryAnswer(u, c)
		if err != nil {
			return nil, err
		}
		answer.Cases, answer.Total = append(answer.Cases, summary), c.Total
	}
	return answer, nil
}

// wordsOf reads what is searched for; commas part words as spaces do.
func wordsOf(typed string) []store.Word {
	var words []store.Word
	for _, w := range strings.FieldsFunc(typed, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' }) {
		word := store.Word{Text: w}
		for _, t := range notation.Meant(w) {
			word.Teeth = append(word.Teeth, t.String())
		}
		words = append(words, word)
	}
	return words
}

func summaryAnswer(u *store.User, c store.Summary) (CaseSummary, error) {
	t, err := notation.ParseISO(c.Tooth)
	if err != nil {
		return CaseSummary{}, err
	}
	a := CaseSummary{
		Id: c.ID, Patient: c.Patient, Tooth: c.Tooth, ToothName: t.Name(), Planned: c.Planned, Class: c.Class, Material: c.Material, School: c.School,
		Verdict: c.Verdict, Refused: c.Refused, Surfaces: c.Surfaces,
		Revisions: c.Revisions, UpdatedAt: c.UpdatedAt, ArchivedAt: c.ArchivedAt, By: c.By, May: permissionsWith(u, c.CreatedBy, c.CreatorRole),
	}
	if err := json.Unmarshal(c.Emblem, &a.Emblem); err != nil {
		return a, fmt.Errorf("reading what is kept of case %s: %w", c.ID, err)
	}
	return a, nil
}

// keepDaySheet plans drafts for the day sheet as they come to rest, one at a time and
// while nobody waits for an answer, until the context ends.
func (s *server) keepDaySheet(ctx context.Context) {
	for {
		c, err := s.Store.Unsummarised(ctx, pipeline.CoreVersion, draftRests)
		if err == nil {
			err = s.summarise(ctx, c)
		}
		switch {
		case ctx.Err() != nil:
			return
		case err == nil:
			continue
		case !errors.Is(err, store.ErrNotFound):
			slog.Warn("planning a draft for the day sheet", "error", err)
		}
		wait := time.NewTimer(lookAgain)
		select {
		case <-ctx.Done():
		case <-wait.C:
		case <-s.draftSaved:
			rest := time.NewTimer(draftRests)
			select {
			case <-ctx.Done():
			case <-rest.C:
			}
			rest.Stop()
		}
		wait.Stop()
	}
}

// noteDraft tells the day sheet that a draft has changed.
func (s *server) noteDraft() {
	select {
	case s.draftSaved <- struct{}{}:
	default: // it knows already
	}
}

// summarise plans a draft and keeps what the day sheet shows of it. What cannot be
// planned is shown as refused, with the reason. The error is the database's or the
// context's.
func (s *server) summarise(ctx context.Context, c *store.Case) (err error) {
	done, err := s.Turns.TakeQuiet(ctx, othersRest)
	if err != nil {
		return err
	}
	defer done()
	unplanned := store.PlanSummary{
		CaseID: c.ID, DraftVersion: c.DraftVersion, CoreVersion: pipeline.CoreVersion, Verdict: assess.Refused, Emblem: []byte("null"),
		Refused: "This draft cannot be planned as it stands: open it, and look at what it says.",
	}
	p := unplanned
	p.Refused = ""
	err = s.sum(ctx, c, &p)
	if err == nil {
		err = s.Store.KeepSummary(ctx, p)
	}
	if err == nil || ctx.Err() != nil {
		return err
	}
	slog.Warn("a draft that cannot be planned", "case", c.ID, "error", err)
	return s.Store.KeepSummary(ctx, unplanned) // or it would stand before all others again
}

// sum fills in what is kept of a draft's plan. A defect of the core must not end the
// server.
func (s *server) sum(ctx context.Context, c *store.Case, p *store.PlanSummary) (err error) {
	defer contained(&err)
	read, err := s.caseIn(ctx, c.PracticeID, c.Draft)
	if err != nil {
		return err
	}
	r, err := s.Planner.Evaluate(ctx, read, plan.DefaultGrid)
	if err != nil {
		return err
	}
	view, err := s.firstView(r, read)
	if err != nil {
		return err
	}
	p.Class, p.Material, p.School = string(r.Decision.Class), string(r.Decision.Choice.Material), r.Decision.Choice.School
	p.Verdict, p.Refused, p.Surfaces = r.Worst(), r.Refused(), lesion.Letters(r.Opened(), read.Tooth)
	p.Words = r.SearchWords()
	p.Emblem, err = json.Marshal(emblemAnswer(drawing.EmblemOf(view)))
	return err
}

// firstView is the one that a plan's drawing begins with; of a refused one, the uncut
// tooth.
func (s *server) firstView(r *plan.Result, c *intake.Case) (drawing.View, error) {
	if r.Drawn != nil {
		return r.Views[0], nil
	}
	chart, err := s.Planner.Chart(c.Tooth, c.Patient.AgeYears)
	if err != nil {
		return drawing.View{}, err
	}
	return chart.Views[0].View, nil
}

func emblemAnswer(e drawing.Emblem) Emblem {
	const off = 0.05 // mm: a thumbnail is some 5 pixels a millimetre
	lines := func(from []solid.Polyline) []Line {
		to := make([]Line, len(from))
		for n, line := range from {
			to[n] = coarseLine(line.Points, line.Closed, off)
		}
		return to
	}
	b := e.Bounds
	return Emblem{
		X:      b.MinX,
		Y:      b.MinY,
		Width:  b.MaxX - b.MinX,
		Height: b.MaxY - b.MinY,
		Crown:  lines(e.Crown),
		Root:   lines(e.Root),
		Cavity: lines(e.Cavity),
	}
}
