package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/datatypes"
	"gorm.io/gorm/clause"
)

// Reach says whose cases of a practice somebody sees: all of them, or their own
// with those that were started by some roles.
type Reach struct {
	Practice, User uuid.UUID
	All            bool
	Roles          []string
}

const inReach = `c.practice_id = @practice and (@all or c.created_by = @user or u.role = any(string_to_array(@roles, ',')))`

func (r Reach) args() map[string]any {
	return map[string]any{"practice": r.Practice, "user": r.User, "all": r.All, "roles": strings.Join(r.Roles, ",")}
}

// PlanSummary is what a list shows of a draft's plan.
type PlanSummary struct {
	CaseID                           uuid.UUID `gorm:"primaryKey"`
	DraftVersion                     int
	CoreVersion                      string
	Class, Material, School, Verdict string
	Refused, Surfaces                string
	Emblem                           datatypes.JSON
	Words                            string // that a search finds it by, in small letters
	MadeAt                           time.Time
}

// TableName names the table for GORM.
func (PlanSummary) TableName() string { return "case_summary" }

// Summary is an entry of a list of cases. Of a draft that is not planned yet in its
// present state the plan's own fields are empty.
type Summary struct {
	ID                               uuid.UUID
	Patient                          string
	Tooth                            string
	Planned                          bool
	Class, Material, School, Verdict string
	Refused, Surfaces                string
	Emblem                           datatypes.JSON
	Revisions                        int
	UpdatedAt                        time.Time
	ArchivedAt                       *time.Time
	CreatedBy                        uuid.UUID
	CreatorRole, By                  string
	Total                            int // of the list that the page is of
}

// Word of a search, with the teeth (ISO 3950) that it may mean.
type Word struct {
	Text  string
	Teeth []string
}

// Order of a list of cases.
type Order string

// The orders. Newest puts the patient first whose cases changed last, with all of
// theirs together; Worst puts what needs a second look first.
const (
	Newest    Order = "newest"
	ByPatient Order = "patient"
	ByTooth   Order = "tooth"
	Worst     Order = "worst"
)

// Page is a part of a list of cases.
type Page struct {
	Archived bool
	Words    []Word // each must be found
	Order    Order  // "" is Newest
	// Verdicts are what a plan may come to, in the order of Worst.
	Verdicts []string
	Core     string // version that a plan's summary counts by; older ones are not shown
	Number   int    // from 0
	Size     int
}

var orders = map[Order]string{
	Newest:    "max(at) over (partition by patient) desc, patient, at desc, id",
	ByPatient: "patient, at desc, id",
	ByTooth:   "tooth, at desc, id",
	Worst:     "array_position(string_to_array(@verdicts, ','), verdict), at desc, id",
}

// found is the condition that a case has a word: in its patient's code, its tooth,
// who started it or its plan. Short words are whole ones there, so that "ii" is no "iii".
func found(words []Word, args map[string]any) string {
	const short = 3
	var all strings.Builder
	for n, w := range words {
		pattern := strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(strings.ToLower(w.Text))
		word, teeth, part := fmt.Sprintf("word%d", n), fmt.Sprintf("teeth%d", n), fmt.Sprintf("part%d", n)
		args[teeth], args[part], args[word] = strings.Join(w.Teeth, ","), "%"+pattern+"%", "% "+pattern+"%"
		if len([]rune(w.Text)) <= short {
			args[word] = "% " + pattern + " %"
		}
		fmt.Fprintf(
			&all,
			` and (tooth = any(string_to_array(@%s, ',')) or lower(patient) like @%s or ' ' || lower(by) || ' ' || words || ' ' like @%s)`,
			teeth,
			part,
			word,
		)
	}
	return all.String()
}

// Cases lists a page of the live cases that somebody sees, or of the archived ones.
// Errors are the database's.
func (s *Store) Cases(ctx context.Context, r Reach, p Page) ([]Summary, error) {
	at, state := "c.updated_at", "c.archived_at is null"
	if p.Archived {
		at, state = "c.archived_at", "c.archived_at is not null"
	}
	order, known := orders[p.Order]
	if !known {
		order = orders[Newest]
	}
	args := r.args()
	args["size"], args["skip"], args["core"], args["verdicts"] = p.Size, p.Number*p.Size, p.Core, strings.Join(p.Verdicts, ",")
	var listed []Summary
	err := s.db.WithContext(ctx).Raw(`
		with listed as (
			select c.id, p.code as patient, c.tooth, c.updated_at, c.archived_at, `+at+` as at, c.created_by, u.role as creator_role, u.name as by,
				coalesce(r.number, 0) as revisions, s.case_id is not null as planned,
				coalesce(s.class, '') as class, coalesce(s.verdict, '') as verdict, coalesce(s.refused, '') as refused,
				coalesce(s.surfaces, '') as surfaces, coalesce(s.emblem, 'null') as emblem,
				coalesce(s.material, c.draft #>> '{choice,material}', '') as material, coalesce(s.school, c.draft #>> '{choice,school}', '') as school,
				coalesce(s.words, '') || case when r.number is null then ' draft' else ' revision' end as words
			from dental_case c
			join patient p on p.id = c.patient_id
			join app_user u on u.id = c.created_by
			left join case_summary s on s.case_id = c.id and s.draft_version = c.draft_version and s.core_version = @core
			left join lateral (select max(number) as number from plan_revision where case_id = c.id) r on true
			where `+inReach+` and `+state+`
		)
		select *, count(*) over () as total from listed where true`+found(p.Words, args)+`
		order by `+order+` limit @size offset @skip`, args).Scan(&listed).Error
	if err != nil {
		return nil, fmt.Errorf("listing the cases: %w", err)
	}
	return listed, nil
}

// Unsummarised finds the case whose plan the day sheet needs next: the newest whose
// draft has rested for so long and is not planned in its present state by this core.
// It fails with ErrNotFound where there is none.
func (s *Store) Unsummarised(ctx context.Context, core string, rested time.Duration) (*Case, error) {
	var c Case
	err := s.db.WithContext(ctx).
		Where("updated_at <= now() - ? * interval '1 second'", rested.Seconds()).
		Where("not exists (select from case_summary s where s.case_id = dental_case.id and s.draft_version = dental_case.draft_version and s.core_version = ?)", core).
		Order("archived_at is not null, updated_at desc").First(&c).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &c, nil
}

// KeepSummary keeps what a list shows of a draft, in the place of an older one. Errors
// are the database's.
func (s *Store) KeepSummary(ctx context.Context, p PlanSummary) error {
	p.MadeAt = time.Now()
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "case_id"}}, UpdateAll: true}).Create(&p).Error; err != nil {
		return fmt.Errorf("keeping what the day sheet shows: %w", err)
	}
	return nil
}

// OnTeeth lists the live cases that somebody sees of a case's patient on some teeth (ISO
// 3950), that case first, then by last change. Errors are the database's.
func (s *Store) OnTeeth(ctx context.Context, r Reach, of *Case, teeth []string) ([]Case, error) {
	args := r.args()
	args["patient"], args["first"], args["teeth"] = of.PatientID, of.ID, strings.Join(teeth, ",")
	var found []Case
	err := s.db.WithContext(ctx).Raw(`
		select c.id, c.tooth, c.draft from dental_case c
		join app_user u on u.id = c.created_by
		where `+inReach+` and c.archived_at is null and c.patient_id = @patient and c.tooth = any(string_to_array(@teeth, ','))
		order by c.id = @first desc, c.updated_at desc`, args).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("looking for the patient's other cases: %w", err)
	}
	return found, nil
}

// Ownership is who started a case, and whether it is archived.
type Ownership struct {
	CreatedBy   uuid.UUID
	CreatorRole string
	Archived    bool
}

// Owner tells who started a case. It fails with ErrNotFound where the practice has
// none.
func (s *Store) Owner(ctx context.Context, practice, id uuid.UUID) (Ownership, error) {
	var o Ownership
	found := s.db.WithContext(ctx).Raw(`
		select c.created_by, u.role as creator_role, c.archived_at is not null as archived
		from dental_case c join app_user u on u.id = c.created_by where c.practice_id = ? and c.id = ?`, practice, id).Scan(&o)
	if found.Error != nil {
		return o, fmt.Errorf("looking for the case: %w", found.Error)
	}
	if found.RowsAffected == 0 {
		return o, ErrNotFound
	}
	return o, nil
}
