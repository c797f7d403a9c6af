package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/google/uuid"

	"obturon/core/chair"
	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/sitting"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// ListRuns lists the times that a case was gone through at the chair.
func (s *server) ListRuns(ctx context.Context, r ListRunsRequestObject) (ListRunsResponseObject, error) {
	runs, err := s.Store.Runs(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	answer := ListRuns200JSONResponse{}
	for n := range runs {
		run := &runs[n]
		sequence, err := sequenceOf(run)
		if err != nil {
			return nil, err
		}
		state := chair.Run(len(sequence.Steps), happened(run))
		visits, err := visitsOf(run)
		if err != nil {
			return nil, err
		}
		teeth := []string{}
		for _, v := range visits {
			teeth = append(teeth, v.Tooth)
		}
		answer = append(answer, ChairRunSummary{
			Id: run.ID, Case: run.CaseID, Teeth: teeth, By: run.User.Name, Own: run.UserID == currentUser(ctx).ID, StartedAt: run.StartedAt, Finished: state.Finished,
			Examination: run.Examination, Minutes: document.Thousandth(state.Seconds / 60), Slips: len(state.Slips),
		})
	}
	return answer, nil
}

// StartRun begins to go through the draft's sequence.
func (s *server) StartRun(ctx context.Context, r StartRunRequestObject) (StartRunResponseObject, error) {
	u := currentUser(ctx)
	kept, err := s.Store.Case(ctx, u.PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	run := store.ChairRun{
		CaseID: r.Id, UserID: u.ID, RequestKey: r.Params.IdempotencyKey, CaseDocument: kept.Draft,
		Examination: r.Body.Examination, LimitMinutes: r.Body.LimitMinutes,
	}
	var led document.ProvenSequence
	if r.Body.Sitting {
		var visits []RunVisit
		if led, visits, err = s.ledTogether(ctx, r.Id); err != nil {
			return nil, err
		}
		if run.Visits, err = json.Marshal(visits); err != nil {
			return nil, err
		}
	} else if led, err = s.led(ctx, kept); err != nil {
		return nil, err
	}
	if run.Sequence, err = json.Marshal(led); err != nil {
		return nil, err
	}
	versions, err := s.Store.MadeWith(ctx, u.PracticeID)
	if err != nil {
		return nil, err
	}
	if run.MadeWith, err = json.Marshal(versions); err != nil {
		return nil, err
	}
	id, err := s.Store.StartRun(ctx, u.PracticeID, run)
	if err != nil {
		return nil, err
	}
	answer, err := s.run(ctx, r.Id, id)
	return StartRun201JSONResponse(answer), err
}

// led is the sequence of a case at the chair.
func (s *server) led(ctx context.Context, kept *store.Case) (led document.ProvenSequence, err error) {
	led, _, err = s.ledThrough(ctx, kept.ID, []store.Case{*kept})
	return led, err
}

// ledTogether is the sequence of a case and of those that are treated in one sitting with it.
func (s *server) ledTogether(ctx context.Context, id uuid.UUID) (led document.ProvenSequence, visits []RunVisit, err error) {
	drafts, cases, err := s.quadrant(ctx, id)
	if err != nil {
		return led, nil, err
	}
	var all []store.Case
	for _, c := range sitting.With(drafts) {
		all = append(all, cases[c.Tooth.String()])
	}
	if len(all) >= sitting.Fewest {
		led, visits, err = s.ledThrough(ctx, id, all)
	}
	if err == nil && len(visits) < sitting.Fewest {
		err = &problem{
			status: http.StatusConflict,
			title:  "This case is treated alone",
			detail: "No other cervical cavity of the quadrant is planned in the same material: begin without a sitting.",
		}
	}
	return led, visits, err
}

// ledThrough is the sequence of some cases from their proofs. Of several, those that are not cut
// are left out; one alone has to be.
func (s *server) ledThrough(
	ctx context.Context,
	id uuid.UUID,
	cases []store.Case,
) (led document.ProvenSequence, visits []RunVisit, err error) {
	var all []render.ProvenCase
	for _, kept := range cases {
		p, err := s.provableBody(ctx, kept.Draft)
		if err != nil {
			return led, nil, err
		}
		proof, err := s.proven(ctx, p)
		if err != nil {
			return led, nil, fmt.Errorf("cutting tooth %s: %w", kept.Tooth, err)
		}
		if proof.Refused != "" && len(cases) == 1 {
			return led, nil, &problem{status: http.StatusConflict, title: "Nothing is cut in this case", detail: proof.Refused}
		}
		if proof.Refused != "" {
			continue
		}
		judged, err := s.Planner.Judged(ctx, p.Case, plan.DefaultGrid)
		if err != nil {
			return led, nil, err
		}
		visits = append(
			visits,
			RunVisit{
				Case:          kept.ID,
				Tooth:         proof.Tooth,
				Document:      CaseDocument(kept.Draft),
				DentinLeftMm:  proof.DentinLeftMm,
				DentinAskedMm: proof.DentinAskedMm,
			},
		)
		all = append(all, render.ProvenCase{Measured: judged.Measured, Proof: proof})
	}
	if len(all) == 0 {
		return led, nil, nil
	}
	products, err := s.products(ctx)
	if err != nil {
		return led, nil, err
	}
	var open []fill.Facing
	if len(all) == 1 {
		if open, err = s.facing(ctx, id, all[0].Case); err != nil {
			return led, nil, err
		}
	}
	return render.Led(all, products, open...), visits, nil
}

// GetRun reads a run as it stands.
func (s *server) GetRun(ctx context.Context, r GetRunRequestObject) (GetRunResponseObject, error) {
	answer, err := s.run(ctx, r.Id, r.Run)
	return GetRun200JSONResponse(answer), err
}

func (s *server) run(ctx context.Context, caseID, id uuid.UUID) (ChairRun, error) {
	u := currentUser(ctx)
	run, err := s.Store.Run(ctx, caseID, id)
	if err != nil {
		return ChairRun{}, err
	}
	sequence, err := sequenceOf(run)
	if err != nil {
		return ChairRun{}, err
	}
	state, err := stateAnswer(sequence, run)
	if err != nil {
		return ChairRun{}, err
	}
	past, err := s.pastSeconds(ctx, u.ID, run.ID, sequence)
	if err != nil {
		return ChairRun{}, err
	}
	a := ChairRun{
		Id: run.ID, By: run.User.Name, Own: run.UserID == u.ID, StartedAt: run.StartedAt, Examination: run.Examination, LimitMinutes: run.LimitMinutes,
		Document: CaseDocument(run.CaseDocument), Sequence: sequence, PastSeconds: past, Events: []ChairEvent{}, State: state,
	}
	if a.MadeWith, err = madeWithOf(run); err != nil {
		return ChairRun{}, err
	}
	if a.Visits, err = visitsOf(run); err != nil {
		return ChairRun{}, err
	}
	for _, e := range run.Events {
		a.Events = append(
			a.Events,
			ChairEvent{Id: e.ID, Number: e.Number, Kind: chair.Kind(e.Kind), Step: e.Step, AtSeconds: e.AtSeconds, Mm: e.MM},
		)
	}
	return a, nil
}

// KeepRunEvents keeps what happened in a run of the user's own.
func (s *server) KeepRunEvents(ctx context.Context, r KeepRunEventsRequestObject) (KeepRunEventsResponseObject, error) {
	run, err := s.Store.Run(ctx, r.Id, r.Run)
	if err != nil {
		return nil, err
	}
	if run.UserID != currentUser(ctx).ID {
		return nil, &problem{
			status: http.StatusForbidden,
			title:  "This run is somebody else's",
			detail: "Begin one of your own: two hands cannot keep one clock.",
		}
	}
	sequence, err := sequenceOf(run)
	if err != nil {
		return nil, err
	}
	var events []store.ChairEvent
	finished := false
	for n, e := range *r.Body {
		if e.Step > len(sequence.Steps) {
			return nil, intake.Faults{
				{
					Path:    fmt.Sprintf("$[%d].step", n),
					Message: fmt.Sprintf("there is no step %d: this run has %d, counted from 0", e.Step, len(sequence.Steps)),
				},
			}
		}
		events = append(events, store.ChairEvent{ID: e.Id, Kind: string(e.Kind), Step: e.Step, AtSeconds: e.AtSeconds, MM: e.Mm})
		finished = finished || e.Kind == chair.Finished
	}
	used := func(kit []byte) ([]byte, error) { return usedUp(kit, sequence, eventsOf(added(run.Events, events))) }
	err = s.Store.KeepEvents(ctx, currentUser(ctx).PracticeID, run, events, finished, used)
	var differs store.EventDiffers
	if errors.As(err, &differs) {
		at := slices.IndexFunc(events, func(e store.ChairEvent) bool { return e.ID == differs.ID })
		return nil, &problem{
			status: http.StatusConflict, title: "This was noted before, and differently", detail: "Nothing was overwritten, and none of what was sent with it was kept: send that again without it, and note it anew.",
			faults: intake.Faults{{Path: fmt.Sprintf("$[%d].id", at), Message: err.Error()}},
		}
	}
	if err != nil {
		return nil, err
	}
	if run, err = s.Store.Run(ctx, r.Id, r.Run); err != nil {
		return nil, err
	}
	answer, err := stateAnswer(sequence, run)
	return KeepRunEvents200JSONResponse(answer), err
}

func sequenceOf(run *store.ChairRun) (document.ProvenSequence, error) {
	d, err := document.ReadSequence(run.Sequence)
	if err != nil {
		return d, fmt.Errorf("reading the sequence of run %s: %w", run.ID, err)
	}
	return d, nil
}

// added are kept events with those that are new among others.
func added(kept, sent []store.ChairEvent) []store.ChairEvent {
	all := slices.Clone(kept)
	for _, e := range sent {
		if !slices.ContainsFunc(all, func(known store.ChairEvent) bool { return known.ID == e.ID }) {
			all = append(all, e)
		}
	}
	return all
}

func happened(run *store.ChairRun) []chair.Event { return eventsOf(run.Events) }

func eventsOf(kept []store.ChairEvent) []chair.Event {
	events := make([]chair.Event, len(kept))
	for n, e := range kept {
		events[n] = chair.Event{Kind: chair.Kind(e.Kind), Step: e.Step, At: e.AtSeconds, MM: e.MM}
	}
	return events
}

// madeWithOf names the versions of the practice's documents that a run was begun with.
func madeWithOf(run *store.ChairRun) ([]string, error) {
	var versions map[store.DocumentKind]int
	if run.MadeWith != nil {
		if err := json.Unmarshal(run.MadeWith, &versions); err != nil {
			return nil, fmt.Errorf("reading what run %s was made with: %w", run.ID, err)
		}
	}
	return madeWith(versions), nil
}

// visitsOf are the teeth of a sitting; none of a run of one tooth.
func visitsOf(run *store.ChairRun) (visits []RunVisit, err error) {
	if run.Visits == nil {
		return nil, nil
	}
	if err := json.Unmarshal(run.Visits, &visits); err != nil {
		return nil, fmt.Errorf("reading the teeth of run %s: %w", run.ID, err)
	}
	return visits, nil
}

// judgedBy is what a slip is judged by at a step.
func judgedBy(step int, sequence document.ProvenSequence, visits []RunVisit) chair.Case {
	if step < len(sequence.Steps) && len(sequence.Steps[step].Teeth) > 0 {
		for _, v := range visits {
			if v.Tooth == sequence.Steps[step].Teeth[0] {
				return chair.Case{Tooth: v.Tooth, DentinLeft: v.DentinLeftMm, Wanted: v.DentinAskedMm}
			}
		}
	}
	return chair.Case{DentinLeft: sequence.DentinLeftMm, Wanted: sequence.DentinAskedMm}
}

// toothOf is the tooth of a run, the first one of a sitting.
func toothOf(run *store.ChairRun) (t notation.Tooth, err error) {
	var of struct {
		Tooth string `json:"tooth"`
	}
	if err = json.Unmarshal(run.CaseDocument, &of); err == nil {
		t, err = notation.Parse(of.Tooth)
	}
	if err != nil {
		return t, fmt.Errorf("reading the case of run %s: %w", run.ID, err)
	}
	return t, nil
}

func stateAnswer(sequence document.ProvenSequence, run *store.ChairRun) (ChairState, error) {
	visits, err := visitsOf(run)
	if err != nil {
		return ChairState{}, err
	}
	events := happened(run)
	state := chair.Run(len(sequence.Steps), events)
	a := ChairState{
		Step:      state.Step,
		Seconds:   document.Thousandth(state.Seconds),
		AtSeconds: document.Thousandth(state.Last),
		Paused:    state.Paused,
		Finished:  state.Finished,
		Steps:     []ChairProgress{},
		Sequels:   []ChairSequel{},
		Clocks:    []RunningClock{},
	}
	for _, c := range chair.Clocks(limitsOf(sequence), events) {
		a.Clocks = append(a.Clocks, RunningClock{Step: c.Step, FromSeconds: document.Thousandth(c.From)})
	}
	for _, p := range state.Steps {
		a.Steps = append(a.Steps, ChairProgress{Seconds: document.Thousandth(p.Seconds), Times: p.Times, Done: p.Done, Skipped: p.Skipped})
	}
	tooth, err := toothOf(run)
	if err != nil {
		return ChairState{}, err
	}
	judgedAt := func(step int) chair.Case {
		c := judgedBy(step, sequence, visits)
		c.Primary = tooth.Primary() // a sitting's teeth are of one dentition
		return c
	}
	for n, q := range chair.Sequels(state.Slips, judgedAt) {
		a.Sequels = append(a.Sequels, ChairSequel{Kind: state.Slips[n].Kind, Step: state.Slips[n].Step, Text: q.Text, Steps: q.Steps})
	}
	return a, nil
}

// limitsOf are the clocks of a sequence's steps.
func limitsOf(sequence document.ProvenSequence) []chair.Limit {
	limits := make([]chair.Limit, len(sequence.Steps))
	for n, s := range sequence.Steps {
		if c := s.Clock; c != nil {
			limits[n] = chair.Limit{Least: float64(c.LeastSeconds), Most: float64(c.MostSeconds), After: c.After}
		}
	}
	return limits
}

// pastSeconds is what each step of a sequence took somebody in other runs: steps of its kind
// with its instrument, whatever they were called.
func (s *server) pastSeconds(ctx context.Context, user, but uuid.UUID, sequence document.ProvenSequence) ([]float64, error) {
	runs, err := s.Store.PastRuns(ctx, user, but)
	if err != nil {
		return nil, err
	}
	took := map[habit][]float64{}
	for n := range runs {
		other, err := sequenceOf(&runs[n])
		if err != nil {
			return nil, err
		}
		for k, p := range chair.Run(len(other.Steps), happened(&runs[n])).Steps {
			if p.Done {
				h := habitOf(other.Steps[k])
				took[h] = append(took[h], p.Seconds)
			}
		}
	}
	past := make([]float64, len(sequence.Steps))
	for n, step := range sequence.Steps {
		if middle, ok := chair.Past(took[habitOf(step)]); ok {
			past[n] = document.Thousandth(middle)
		}
	}
	return past, nil
}

// habit is what steps have in common that take somebody about as long.
type habit struct {
	kind procedure.Kind
	with instrument.ID // taken up first; "" where nothing is
}

func habitOf(s document.Step) habit {
	h := habit{kind: s.Kind}
	if len(s.Instruments) > 0 {
		h.with = s.Instruments[0]
	}
	return h
}
