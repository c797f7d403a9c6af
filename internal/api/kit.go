package api

import (
	"context"
	"encoding/json"
	"fmt"

	"gorm.io/datatypes"

	"obturon/core/chair"
	"obturon/core/instrument"
	"obturon/internal/document"
	"obturon/internal/store"
)

// GetKit answers what the practice has of the instruments.
func (s *server) GetKit(ctx context.Context, _ GetKitRequestObject) (GetKitResponseObject, error) {
	k, err := s.Store.PracticeDocument(ctx, store.Kits, currentUser(ctx).PracticeID)
	if err != nil {
		return nil, err
	}
	answer, err := kitAnswer(k)
	return GetKit200JSONResponse(answer), err
}

// SaveKit keeps a changed kit.
func (s *server) SaveKit(ctx context.Context, r SaveKitRequestObject) (SaveKitResponseObject, error) {
	if faults := r.Body.Kit.Check("$.kit"); len(faults) > 0 {
		return nil, unprocessable("This kit cannot be kept", faults)
	}
	text, err := json.Marshal(r.Body.Kit)
	if err != nil {
		return nil, err
	}
	changed, err := s.keep(ctx, store.Kits, r.Body.Version, text, problem{
		title: "The kit was changed meanwhile", detail: "Someone else kept it, or a run at the chair has counted a use: read it anew and change that. Nothing was overwritten.",
	})
	if err != nil {
		return nil, err
	}
	answer, err := kitAnswer(changed)
	return SaveKit200JSONResponse(answer), err
}

// kitOf is the practice's kit, and as it is kept: both nil where it has written none down.
func (s *server) kitOf(ctx context.Context) (*instrument.Kit, datatypes.JSON, error) {
	k, err := s.Store.PracticeDocument(ctx, store.Kits, currentUser(ctx).PracticeID)
	if err != nil || k == nil {
		return nil, nil, err
	}
	d, err := kitDocument(k.Document)
	return d.Stock().Kit(), k.Document, err
}

func kitDocument(text []byte) (document.Kit, error) {
	var d document.Kit
	if err := json.Unmarshal(text, &d); err != nil {
		return d, fmt.Errorf("reading the kit: %w", err)
	}
	return d, nil
}

func kitAnswer(k *store.PracticeDocument) (PracticeKit, error) {
	if k == nil {
		return PracticeKit{Kit: document.KitOf(nil), Notes: []KitNote{}}, nil
	}
	d, err := kitDocument(k.Document)
	answer := PracticeKit{Version: k.Version, Kit: d, Notes: []KitNote{}}
	for _, i := range d.Stock() {
		if out := i.Out(); out != "" {
			answer.Notes = append(answer.Notes, KitNote{Instrument: i.ID, Text: out, Out: true})
		} else if low := i.RunsLow(); low != "" {
			answer.Notes = append(answer.Notes, KitNote{Instrument: i.ID, Text: low})
		}
	}
	return answer, err
}

// usedUp is a kit after a run at the chair: what the steps that were done take up is used
// once; nil where nobody counts that. Its events may be in part known already.
func usedUp(text []byte, sequence document.ProvenSequence, events []chair.Event) ([]byte, error) {
	d, err := kitDocument(text)
	if err != nil {
		return nil, err
	}
	run := chair.Run(len(sequence.Steps), events)
	left, changed := d.Stock().Used(run.TakenUp(func(step int) []instrument.ID { return sequence.Steps[step].Instruments }))
	if !changed {
		return nil, nil
	}
	return json.Marshal(document.KitOf(left))
}
