package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/google/uuid"
	"gorm.io/datatypes"

	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// ListSchools lists the schools with their criteria: ours, then the practice's own.
func (s *server) ListSchools(ctx context.Context, r ListSchoolsRequestObject) (ListSchoolsResponseObject, error) {
	holds := func(school.Criterion) bool { return true }
	if r.Params.Tooth != nil && r.Params.Material != nil {
		t, err := notation.ParseISO(*r.Params.Tooth)
		if err != nil {
			return nil, intake.Faults{{Path: "tooth", Message: err.Error()}}
		}
		holds = func(c school.Criterion) bool { return c.HoldsFor(t, *r.Params.Material) }
	}
	answer := ListSchools200JSONResponse{}
	archived := r.Params.Archived != nil && *r.Params.Archived
	for _, id := range school.IDs {
		if archived {
			break
		}
		own, err := school.Get(id)
		if err != nil {
			return nil, err
		}
		answer = append(answer, schoolAnswer(own, holds))
	}
	house, err := s.Store.HouseSchools(ctx, currentUser(ctx).PracticeID, archived)
	if err != nil {
		return nil, err
	}
	for _, h := range house {
		own, err := s.rulesIn(ctx, &h) // listed even where they must be mended first
		if err != nil {
			return nil, err
		}
		answer = append(answer, schoolAnswer(own, holds))
	}
	return answer, nil
}

func schoolAnswer(s *school.School, holds func(school.Criterion) bool) School {
	a := School{
		Id:          s.ID,
		Version:     s.Version,
		Name:        s.Name,
		Title:       s.Title,
		Summary:     s.Summary,
		House:       school.IsHouse(s.ID),
		Instruments: append([]InstrumentId{}, s.Instruments...),
		Criteria:    []Criterion{},
	}
	for _, c := range s.Criteria {
		if holds(c) {
			a.Criteria = append(a.Criteria, criterionAnswer(c))
		}
	}
	return a
}

// schoolByID finds a school: one of ours, or the practice's own.
func (s *server) schoolByID(ctx context.Context, practice uuid.UUID, id string) (*school.School, error) {
	if !school.IsHouse(id) {
		return school.Get(id)
	}
	slug, version := school.SplitHouse(id)
	h, err := s.Store.DocumentVersion(ctx, store.HouseRules(slug), practice, version)
	if err != nil {
		return nil, err
	}
	own, err := s.rulesIn(ctx, h)
	if err == nil {
		err = own.Validate()
	}
	if err != nil {
		return nil, fmt.Errorf("%w:\n%w", errUnsound, err)
	}
	return own, nil
}

// rulesIn reads stored house rules, sound or not, with what came into their base since.
func (s *server) rulesIn(ctx context.Context, h *store.PracticeDocument) (*school.School, error) {
	own, err := school.Decode(h.Document)
	if err != nil {
		return nil, err
	}
	base, err := s.schoolByID(ctx, h.PracticeID, *h.Base)
	if err != nil { // archived or unsound meanwhile: they stay as they were kept
		return own, nil
	}
	return own.Knowing(base), nil
}

// errUnsound means that stored house rules ask for what cannot be built.
var errUnsound = errors.New("the rules ask for what cannot be built: open them under Schools and mend them")

// caseOf reads a case document and gives it the practice's kit and the house rules that it
// names.
func (s *server) caseOf(ctx context.Context, sent []byte) (*intake.Case, error) {
	p, err := s.provableBody(ctx, sent)
	return p.Case, err
}

// caseIn is caseOf for a practice's own rules, with whatever kit.
func (s *server) caseIn(ctx context.Context, practice uuid.UUID, sent []byte) (*intake.Case, error) {
	c, err := document.ReadCase(sent)
	if err != nil {
		return nil, err
	}
	id := c.House()
	if id == "" {
		return c, nil
	}
	own, err := s.schoolByID(ctx, practice, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, intake.Faults{{Path: "$.choice.school", Message: "this practice has no house rules " + id + ": choose another school"}}
	}
	if errors.Is(err, errUnsound) {
		return nil, intake.Faults{{Path: "$.choice.school", Message: err.Error()}}
	}
	if err != nil {
		return nil, err
	}
	c.Under(own)
	return c, nil
}

// draftOf reads a case of the practice and its draft.
func (s *server) draftOf(ctx context.Context, id uuid.UUID) (*store.Case, *intake.Case, error) {
	kept, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, id)
	if err != nil {
		return nil, nil, err
	}
	c, err := s.caseOf(ctx, kept.Draft)
	return kept, c, err
}

// CopySchool starts house rules from a school.
func (s *server) CopySchool(ctx context.Context, r CopySchoolRequestObject) (CopySchoolResponseObject, error) {
	u := currentUser(ctx)
	base, err := s.schoolByID(ctx, u.PracticeID, r.Body.Base)
	if err != nil {
		return nil, unprocessable(
			"There is no such school",
			intake.Faults{{Path: "$.base", Message: r.Body.Base + " is unknown: copy one of those listed"}},
		)
	}
	name := strings.TrimSpace(r.Body.Name)
	id := school.HouseID(name)
	if id == "" {
		return nil, unprocessable(
			"The rules need a name",
			intake.Faults{{Path: "$.name", Message: "give a name with letters or figures, such as Halvarra bench"}},
		)
	}
	kept, err := s.keepRules(ctx, base.Copy(id, name), base.ID)
	if err != nil {
		return nil, err
	}
	return CopySchool201JSONResponse(*kept), nil
}

// GetHouseRules reads house rules whole.
func (s *server) GetHouseRules(ctx context.Context, r GetHouseRulesRequestObject) (GetHouseRulesResponseObject, error) {
	if !school.IsHouse(r.Id) {
		return nil, store.ErrNotFound
	}
	slug, version := school.SplitHouse(r.Id)
	h, err := s.Store.DocumentVersion(ctx, store.HouseRules(slug), currentUser(ctx).PracticeID, version)
	if err != nil {
		return nil, err
	}
	own, err := s.rulesIn(ctx, h)
	if err != nil {
		return nil, err
	}
	if h.Document, err = json.Marshal(own); err != nil {
		return nil, err
	}
	answer := rulesAnswer(h, h.Author.Name)
	answer.Archived, err = s.Store.HouseSchoolArchived(ctx, h.PracticeID, slug)
	return GetHouseRules200JSONResponse(answer), err
}

// SaveHouseRules keeps a new version.
func (s *server) SaveHouseRules(ctx context.Context, r SaveHouseRulesRequestObject) (SaveHouseRulesResponseObject, error) {
	u := currentUser(ctx)
	slug, _ := school.SplitHouse(r.Id)
	newest, err := s.Store.DocumentVersion(ctx, store.HouseRules(slug), u.PracticeID, 0)
	if err != nil {
		return nil, err
	}
	changed, err := school.Read(*r.Body)
	if err != nil {
		return nil, unprocessable("These rules cannot be kept", rulesFaults(err))
	}
	from, err := strconv.Atoi(changed.Version)
	if err != nil || changed.ID != slug {
		return nil, unprocessable(
			"These rules cannot be kept",
			intake.Faults{{Path: "$.id", Message: "the document is not that of " + slug + ": read it anew, then change it"}},
		)
	}
	if faults := s.silentFaults(ctx, changed, newest); len(faults) > 0 {
		return nil, unprocessable("These rules cannot be kept", faults)
	}
	changed.Version = strconv.Itoa(from + 1)
	kept, err := s.keepRules(ctx, changed, *newest.Base)
	if err != nil {
		return nil, err
	}
	return SaveHouseRules200JSONResponse(*kept), nil
}

// silentFaults names what rules no longer say anything of that they did before.
func (s *server) silentFaults(ctx context.Context, changed *school.School, before *store.PracticeDocument) intake.Faults {
	base, err := s.schoolByID(ctx, before.PracticeID, *before.Base)
	if err != nil { // archived or unsound meanwhile: their own last version is the measure
		if base, err = school.Decode(before.Document); err != nil {
			return rulesFaults(err)
		}
	}
	var faults intake.Faults
	for _, id := range changed.Silent(base) {
		faults = append(
			faults,
			intake.Fault{Path: "$.criteria", Message: fmt.Sprintf("%s is missing: keep it, with \"applies\": false where it is not asked for", id)},
		)
	}
	return faults
}

// ArchiveHouseRules takes rules off the list.
func (s *server) ArchiveHouseRules(ctx context.Context, r ArchiveHouseRulesRequestObject) (ArchiveHouseRulesResponseObject, error) {
	u := currentUser(ctx)
	if err := s.Store.ArchiveHouseSchool(ctx, u.PracticeID, u.ID, r.Id); err != nil {
		return nil, err
	}
	return ArchiveHouseRules204Response{}, nil
}

// UnarchiveHouseRules brings them back.
func (s *server) UnarchiveHouseRules(ctx context.Context, r UnarchiveHouseRulesRequestObject) (UnarchiveHouseRulesResponseObject, error) {
	u := currentUser(ctx)
	if err := s.Store.RestoreHouseSchool(ctx, u.PracticeID, u.ID, r.Id); err != nil {
		return nil, err
	}
	return UnarchiveHouseRules204Response{}, nil
}

// keepRules stores a version of house rules.
func (s *server) keepRules(ctx context.Context, rules *school.School, base string) (*HouseRules, error) {
	u := currentUser(ctx)
	version, err := strconv.Atoi(rules.Version)
	if err != nil {
		return nil, err
	}
	kept, err := json.Marshal(rules)
	if err != nil {
		return nil, err
	}
	saved, err := s.Store.SavePracticeDocument(ctx, store.PracticeDocument{
		PracticeID: u.PracticeID, Kind: store.HouseRules(rules.ID), Version: version, Base: &base, Document: datatypes.JSON(kept), ChangedBy: u.ID,
	})
	if errors.Is(err, store.ErrTaken) {
		return nil, &problem{
			status: http.StatusConflict,
			title:  "There are newer rules of this name",
			detail: "Someone else kept a version meanwhile, or the name is in use: read the newest and change that, or take another name. Nothing was overwritten.",
		}
	}
	if err != nil {
		return nil, err
	}
	answer := rulesAnswer(saved, u.Name)
	return &answer, nil
}

func rulesAnswer(h *store.PracticeDocument, by string) HouseRules {
	return HouseRules{Id: string(h.Kind), Version: h.Version, Base: *h.Base, By: by, At: h.ChangedAt, Document: SchoolDocument(h.Document)}
}

// rulesFaults names every fault of a school's document.
func rulesFaults(err error) intake.Faults {
	var faults intake.Faults
	for line := range strings.SplitSeq(err.Error(), "\n") {
		faults = append(faults, intake.Fault{Path: "$", Message: line})
	}
	return faults
}

// JudgeUnder says what another school would say to a draft, its design left as
// it is.
func (s *server) JudgeUnder(ctx context.Context, r JudgeUnderRequestObject) (JudgeUnderResponseObject, error) {
	_, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	other, err := s.schoolByID(ctx, currentUser(ctx).PracticeID, r.School)
	if err != nil {
		return nil, unprocessable(
			"There is no such school",
			intake.Faults{{Path: "school", Message: r.School + " is unknown: name one of those listed"}},
		)
	}
	j, err := s.Planner.JudgeUnder(ctx, c, other, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := JudgeUnder200JSONResponse{Before: j.Before, After: j.After}
	answer.Changes = []VerdictChange{}
	for _, change := range j.Changes {
		answer.Changes = append(answer.Changes, VerdictChange{Label: change.Label, Before: change.Before, After: change.After})
	}
	return answer, nil
}
