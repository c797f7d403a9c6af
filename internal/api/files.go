package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"path"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/sitting"
	"obturon/core/solid"
	"obturon/internal/export"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// fileAnswer is a finished file with its name and kind.
type fileAnswer struct {
	name    string
	content []byte
}

var mediaTypes = map[string]string{
	".json": "application/json", ".svg": "image/svg+xml", ".pdf": "application/pdf", ".stl": "model/stl",
	".csv": "text/csv; charset=utf-8", ".obj": "model/obj", ".ply": "application/octet-stream", ".png": "image/png",
}

// VisitGetCaseFileResponse writes the file; cards and drawings open in the
// browser, the rest is saved.
func (f fileAnswer) VisitGetCaseFileResponse(w http.ResponseWriter) error {
	extension := path.Ext(f.name)
	disposition := "attachment"
	if extension == ".pdf" || extension == ".svg" || extension == ".png" {
		disposition = "inline"
	}
	w.Header().Set("Content-Type", mediaTypes[extension])
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
		content, err = s.revisionFile(ctx, kept, fixed, r.File)
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
	if file == "plan.json" {
		proof, err := s.proven(ctx, one.provable())
		if err != nil {
			return nil, err
		}
		encoder := json.NewEncoder(&content)
		encoder.SetIndent("", "  ")
		err = encoder.Encode(proof.Onto(result.KeptDocument(one.products)))
		return content.Bytes(), err
	}
	err = s.makeFile(ctx, &content, file, one, result, head)
	return content.Bytes(), err
}

// makeFile makes a file from a planned case and what it rests on, and from nothing else.
func (s *server) makeFile(ctx context.Context, out *bytes.Buffer, file string, one *based, result *plan.Result, head export.CardHead) error {
	if file == "card.pdf" || file == "card-letter.pdf" {
		return s.makeCard(ctx, out, file, one, result, head)
	}
	if result.Refused() != "" {
		return unprocessable("There is nothing to draw", intake.Faults{{Path: "$", Message: result.Refused()}})
	}
	switch file {
	case "steps.csv", "steps.json":
		return s.makeSteps(ctx, out, file, one)
	case "tray.pdf":
		return s.makeTray(ctx, out, one, head)
	case "drawing.svg":
		return export.WriteSVG(out, result)
	case "drawing.png":
		return export.WritePNG(out, result)
	default:
		return writeSolid(out, result, one.products, file)
	}
}

// makeCard writes a card, its steps proven by cutting.
func (s *server) makeCard(ctx context.Context, out *bytes.Buffer, file string, one *based, result *plan.Result, head export.CardHead) error {
	paper := export.A4
	if file == "card-letter.pdf" {
		paper = export.Letter
	}
	if result.Refused() != "" {
		return export.WriteCard(out, result, export.Beside{}, head, paper)
	}
	proof, err := s.proven(ctx, one.provable())
	if err != nil {
		return err
	}
	rehearsed, err := s.Planner.Rehearse(ctx, one.Case, plan.DefaultGrid) // for the pictures of its steps
	if err != nil {
		return err
	}
	forces, err := s.Planner.ForcesLines(ctx, one.Case, one.assumed, plan.DefaultGrid)
	if err != nil {
		return err
	}
	filled, err := s.filled(ctx, one, proof)
	if err != nil {
		return err
	}
	return export.WriteCard(out, result, export.Beside{Rehearsed: rehearsed, Forces: forces, Filled: filled}, head, paper)
}

// filled is how a case is filled, as its card has it.
func (s *server) filled(ctx context.Context, one *based, proof *plan.Proof) (export.Filled, error) {
	filled, err := s.Planner.FillOf(ctx, one.Case, proof, one.products, one.facing, plan.DefaultGrid, plan.Sections{})
	return export.Filled{Fill: plan.FillDocument(filled.Fillings), Views: filled.Views, Before: plan.Steps(filled.Before), Tray: plan.TrayItems(filled.Tray)}, err
}

// makeTray writes what has to lie ready for a case, the burs as the kit cuts it.
func (s *server) makeTray(ctx context.Context, out *bytes.Buffer, one *based, head export.CardHead) error {
	proof, err := s.proven(ctx, one.provable())
	if err != nil {
		return err
	}
	filled, err := s.filled(ctx, one, proof)
	if err != nil {
		return err
	}
	return export.WriteTray(out, head, export.TraySheet{Teeth: []string{one.Tooth.String()}, Tray: filled.Tray}, export.A4)
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
		return unprocessable("This case is treated alone", intake.Faults{{Path: "$", Message: "no other cervical cavity of the quadrant is planned in the same material: print its own tray"}})
	}
	answer := sittingAnswer(planned, cases)
	return export.WriteTray(out, head, export.TraySheet{Teeth: planned.Teeth, Rounds: answer.Steps, Tray: answer.Tray}, export.A4)
}

// makeSteps writes the proven steps as a table or a document.
func (s *server) makeSteps(ctx context.Context, out *bytes.Buffer, file string, one *based) error {
	proof, err := s.proven(ctx, one.provable())
	if err != nil {
		return err
	}
	if file == "steps.csv" {
		return export.WriteSteps(out, proof.Sequence())
	}
	encoder := json.NewEncoder(out)
	encoder.SetIndent("", "  ")
	return encoder.Encode(proof.Sequence())
}

// writeSolid writes one of a plan's solids in the format of the file's name.
func writeSolid(out *bytes.Buffer, r *plan.Result, products fill.Products, file string) error {
	extension := path.Ext(file)
	name := strings.TrimSuffix(file, extension)
	var mesh *solid.Mesh
	switch name {
	case "intact":
		mesh = r.Model.Surface.Uncut().Mesh()
	case "prepared":
		mesh = r.Prepared.Mesh
	case "filling":
		mesh = plan.FillingSolid(r.Filled(products))
	default:
		mesh = r.CavitySolid()
	}
	s := export.Solid{Mesh: mesh, Tooth: r.Case.Tooth, Name: name}
	switch extension {
	case ".obj":
		return export.WriteOBJ(out, s)
	case ".ply":
		return export.WritePLY(out, s)
	default:
		return export.WriteSTL(out, s)
	}
}
