package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"

	"github.com/google/uuid"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/sitting"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/export/list"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// fileAnswer is a finished file with its name and kind.
type fileAnswer struct {
	name    string
	content []byte
}

// VisitGetCaseFileResponse writes the file; cards and drawings open in the
// browser, the rest is saved.
func (f fileAnswer) VisitGetCaseFileResponse(w http.ResponseWriter) error {
	disposition := "attachment"
	if list.Shown(f.name) {
		disposition = "inline"
	}
	w.Header().Set("Content-Type", list.Media(f.name))
	w.Header().Set("Content-Disposition", fmt.Sprintf("%s; filename=%q", disposition, f.name))
	w.Header().Set("Content-Length", strconv.Itoa(len(f.content)))
	_, err := w.Write(f.content)
	return err
}

// GetCaseFile makes a file of the draft or of a revision.
func (s *server) GetCaseFile(ctx context.Context, r GetCaseFileRequestObject) (GetCaseFileResponseObject, error) {
	u := currentUser(ctx)
	kept, fixed, err := s.draftOrRevision(ctx, r.Id, r.Params.Revision)
	if err != nil {
		return nil, err
	}
	if fixed == nil && r.Params.Draft != nil && *r.Params.Draft != kept.DraftVersion {
		return nil, store.ErrStale
	}
	var content []byte
	prefix := kept.Patient.Code + "-" + kept.Tooth + "-draft-"
	if fixed != nil {
		prefix = fmt.Sprintf("%s-%s-r%d-", kept.Patient.Code, kept.Tooth, fixed.Number)
		content, err = s.revisionFile(ctx, fixed, r.File)
	} else {
		content, err = s.draftFile(ctx, kept, r.File)
	}
	if err != nil {
		return nil, err
	}
	if err := s.Store.Audit(ctx, u, "export", r.Id.String()+"/"+prefix+r.File); err != nil {
		return nil, err
	}
	return fileAnswer{prefix + r.File, content}, nil
}

// draftFile makes a file of a draft as all stands now.
func (s *server) draftFile(ctx context.Context, kept *store.Case, file string) ([]byte, error) {
	var content bytes.Buffer
	if file == "case.json" {
		err := json.Indent(&content, kept.Draft, "", "  ")
		return content.Bytes(), err
	}
	one, err := s.today(ctx, kept, kept.Draft)
	if err != nil {
		return nil, err
	}
	head := export.CardHead{Patient: one.patient, Revision: "draft", Practice: one.practice}
	if file == "sitting.pdf" {
		err = s.makeSitting(ctx, &content, kept.ID, head)
		return content.Bytes(), err
	}
	result, err := s.Planner.Evaluate(ctx, one.Case, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	err = s.makeFile(ctx, &content, file, one, result, head)
	return content.Bytes(), err
}

// makeFile makes a file from a planned case and what it rests on, and from nothing else.
func (s *server) makeFile(
	ctx context.Context,
	out *bytes.Buffer,
	file string,
	one *based,
	result *plan.Result,
	head export.CardHead,
) error {
	if f, _ := list.Find(file); f.Cut && result.Refused() != "" {
		return unprocessable("There is nothing to draw", intake.Faults{{Path: "$", Message: result.Refused()}})
	}
	return export.Write(out, file, &source{ctx, s, one, result, head})
}

// source is a case that its files are written from, as export.Source.
type source struct {
	ctx    context.Context // of the request
	server *server
	one    *based
	result *plan.Result
	head   export.CardHead
}

func (s *source) Result() *plan.Result    { return s.result }
func (s *source) Head() export.CardHead   { return s.head }
func (s *source) Products() fill.Products { return s.one.products }

func (s *source) proof() (*render.Proof, error) { return s.server.proven(s.ctx, s.one.provable()) }

// Plan has the steps as they were proven.
func (s *source) Plan() (d document.Plan, err error) {
	proof, err := s.proof()
	if err != nil {
		return d, err
	}
	return proof.Onto(s.result.KeptDocument(s.one.products)), nil
}

func (s *source) Steps() (d document.ProvenSequence, err error) {
	proof, err := s.proof()
	if err != nil {
		return d, err
	}
	return proof.Sequence(), nil
}

// Beside has the steps proven by cutting, with their pictures.
func (s *source) Beside() (b export.Beside, err error) {
	if s.result.Refused() != "" {
		return b, nil
	}
	if _, err := s.proof(); err != nil { // by whoever works, so that it is done once
		return b, err
	}
	planner := s.server.Planner
	if b.Rehearsed, err = planner.Rehearse(s.ctx, s.one.Case, plan.DefaultGrid); err != nil {
		return b, err
	}
	if b.Forces, err = planner.HoldLines(s.ctx, s.one.Case, plan.DefaultGrid); err != nil {
		return b, err
	}
	b.Filled, err = s.filled()
	return b, err
}

// filled is how the case is filled, as its card has it.
func (s *source) filled() (f export.Filled, err error) {
	proof, err := s.proof()
	if err != nil {
		return f, err
	}
	filled, err := s.server.Planner.FillOf(s.ctx, s.one.Case, proof, s.one.products, s.one.facing, plan.DefaultGrid, pipeline.Sections{})
	return export.Filled{
		Fill:   render.Fill(filled.Fillings),
		Views:  filled.Views,
		Before: render.Steps(filled.Before),
		Tray:   render.TrayItems(filled.Tray),
	}, err
}

// Tray has what lies ready for a case, the burs as the kit cuts it.
func (s *source) Tray() (export.TraySheet, error) {
	filled, err := s.filled()
	return export.TraySheet{Teeth: []string{s.one.Tooth.String()}, Tray: filled.Tray}, err
}

// makeSitting writes the order and the tray of the sitting that a case is treated in.
func (s *server) makeSitting(ctx context.Context, out *bytes.Buffer, id uuid.UUID, head export.CardHead) error {
	drafts, all, err := s.quadrant(ctx, id)
	if err != nil {
		return err
	}
	for _, c := range sitting.With(drafts) { // so that the burs are those that the kit cuts with
		p, err := s.provableBody(ctx, all[c.Tooth.String()].Draft)
		if err != nil {
			return err
		}
		if _, err := s.proven(ctx, p); err != nil {
			return err
		}
	}
	planned, cases, err := s.sitting(ctx, id)
	if err != nil {
		return err
	}
	if planned == nil {
		return unprocessable(
			"This case is treated alone",
			intake.Faults{{Path: "$", Message: "no other cervical cavity of the quadrant is planned in the same material: print its own tray"}},
		)
	}
	answer := sittingAnswer(planned, cases)
	return export.WriteTray(out, head, export.TraySheet{Teeth: planned.Teeth, Rounds: answer.Steps, Tray: answer.Tray}, export.A4)
}
