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
	kept, err := s.Store.Case(ctx, u.PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	document := []byte(kept.Draft)
	var fixed *store.Revision
	head := export.CardHead{Patient: kept.Patient.Code, Revision: "draft", Practice: u.Practice.Name}
	prefix := kept.Patient.Code + "-" + kept.Tooth + "-draft-"
	if r.Params.Revision != nil {
		if fixed, err = s.Store.Revision(ctx, u.PracticeID, r.Id, *r.Params.Revision); err != nil {
			return nil, err
		}
		document = fixed.CaseDocument
		head.Revision = fmt.Sprintf("revision %d, %s", fixed.Number, fixed.CreatedAt.Format("2006-01-02"))
		prefix = fmt.Sprintf("%s-%s-r%d-", kept.Patient.Code, kept.Tooth, fixed.Number)
	}
	if fixed == nil && r.Params.Draft != nil && *r.Params.Draft != kept.DraftVersion {
		return nil, store.ErrStale
	}
	file := r.File
	var content bytes.Buffer
	switch {
	case file == "case.json":
		err = json.Indent(&content, document, "", "  ")
	case file == "plan.json" && fixed != nil:
		err = json.Indent(&content, fixed.PlanDocument, "", "  ") // as it was fixed, whatever the core says today
	default:
		err = s.makeFile(ctx, &content, file, r.Id, document, head)
	}
	if err != nil {
		return nil, err
	}
	if err := s.Store.Audit(ctx, u, "export", r.Id.String()+"/"+prefix+file); err != nil {
		return nil, err
	}
	return fileAnswer{prefix + file, content.Bytes()}, nil
}

func (s *server) makeFile(ctx context.Context, out *bytes.Buffer, file string, id uuid.UUID, document []byte, head export.CardHead) error {
	c, err := s.caseOf(ctx, document)
	if err != nil {
		return err
	}
	if file == "sitting.pdf" {
		return s.makeSitting(ctx, out, id, head)
	}
	result, err := s.Planner.Evaluate(ctx, c, plan.DefaultGrid)
	if err != nil {
		return err
	}
	switch file {
	case "plan.json":
		rehearsed, err := s.rehearse(ctx, c)
		if err != nil {
			return err
		}
		products, err := s.products(ctx)
		if err != nil {
			return err
		}
		encoder := json.NewEncoder(out)
		encoder.SetIndent("", "  ")
		return encoder.Encode(rehearsed.Prove(result.KeptDocument(products)))
	case "card.pdf", "card-letter.pdf":
		return s.makeCard(ctx, out, file, id, c, result, head)
	}
	if result.Refused() != "" {
		return unprocessable("There is nothing to draw", intake.Faults{{Path: "$", Message: result.Refused()}})
	}
	if strings.HasPrefix(file, "steps.") {
		return s.makeSteps(ctx, out, file, c)
	}
	if file == "tray.pdf" {
		return s.makeTray(ctx, out, id, c, head)
	}
	switch file {
	case "drawing.svg":
		return export.WriteSVG(out, result)
	case "drawing.png":
		return export.WritePNG(out, result)
	}
	products, err := s.products(ctx)
	if err != nil {
		return err
	}
	return writeSolid(out, result, products, file)
}

// makeCard writes a card, its steps proven by cutting.
func (s *server) makeCard(ctx context.Context, out *bytes.Buffer, file string, id uuid.UUID, c *intake.Case, result *plan.Result, head export.CardHead) error {
	paper := export.A4
	if file == "card-letter.pdf" {
		paper = export.Letter
	}
	if result.Refused() != "" {
		return export.WriteCard(out, result, export.Beside{}, head, paper)
	}
	rehearsed, err := s.rehearse(ctx, c)
	if err != nil {
		return err
	}
	assumed, err := s.assumed(ctx)
	if err != nil {
		return err
	}
	forces, err := s.Planner.ForcesLines(ctx, c, assumed, plan.DefaultGrid)
	if err != nil {
		return err
	}
	filled, err := s.filled(ctx, id, c)
	if err != nil {
		return err
	}
	return export.WriteCard(out, result, export.Beside{Rehearsed: rehearsed, Forces: forces, Filled: filled}, head, paper)
}

// filled is how a case is filled, as its card has it.
func (s *server) filled(ctx context.Context, id uuid.UUID, c *intake.Case) (export.Filled, error) {
	products, err := s.products(ctx)
	if err != nil {
		return export.Filled{}, err
	}
	open, err := s.facing(ctx, id, c)
	if err != nil {
		return export.Filled{}, err
	}
	filled, err := s.Planner.FillOf(ctx, c, products, open, plan.DefaultGrid, plan.Sections{})
	return export.Filled{Fill: plan.FillDocument(filled.Fillings), Views: filled.Views, Before: plan.CourseSteps(filled.Before), Tray: plan.TrayItems(filled.Tray)}, err
}

// makeTray writes what has to lie ready for a case, the burs as the kit cuts it.
func (s *server) makeTray(ctx context.Context, out *bytes.Buffer, id uuid.UUID, c *intake.Case, head export.CardHead) error {
	if _, err := s.rehearse(ctx, c); err != nil {
		return err
	}
	filled, err := s.filled(ctx, id, c)
	if err != nil {
		return err
	}
	return export.WriteTray(out, head, export.TraySheet{Teeth: []string{c.Tooth.String()}, Tray: filled.Tray}, export.A4)
}

// makeSitting writes the order and the tray of the sitting that a case is treated in.
func (s *server) makeSitting(ctx context.Context, out *bytes.Buffer, id uuid.UUID, head export.CardHead) error {
	drafts, _, err := s.quadrant(ctx, id)
	if err != nil {
		return err
	}
	for _, c := range sitting.With(drafts) { // so that the burs are those that the kit cuts with
		if _, err := s.rehearse(ctx, c); err != nil {
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
func (s *server) makeSteps(ctx context.Context, out *bytes.Buffer, file string, c *intake.Case) error {
	rehearsed, err := s.rehearse(ctx, c)
	if err != nil {
		return err
	}
	if file == "steps.csv" {
		return export.WriteSteps(out, rehearsed.Sequence())
	}
	encoder := json.NewEncoder(out)
	encoder.SetIndent("", "  ")
	return encoder.Encode(rehearsed.Sequence())
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
