package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// CorrectBirthYear changes the birth year of a case's patient, and the age in the
// drafts of all the patient's cases with it. Revisions stay as they were fixed. It
// fails with ErrNotFound where the practice has no such case.
func (s *Store) CorrectBirthYear(ctx context.Context, practice, user, caseID uuid.UUID, birthYear int) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var c Case
		if err := tx.First(&c, "practice_id = ? and id = ?", practice, caseID).Error; err != nil {
			return orNotFound(err)
		}
		var p Patient
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&p, "id = ?", c.PatientID).Error; err != nil {
			return err
		}
		if p.BirthYear == birthYear {
			return nil
		}
		older := p.BirthYear - birthYear
		if err := tx.Model(&p).Update("birth_year", birthYear).Error; err != nil {
			return err
		}
		err := tx.Exec(`
			update dental_case set draft_version = draft_version + 1, updated_at = ?,
				draft = jsonb_set(draft, '{patient,age_years}', to_jsonb(least(greatest((draft #>> '{patient,age_years}')::numeric + ?, 0), 120)))
			where patient_id = ? and draft #> '{patient,age_years}' is not null`, time.Now(), older, p.ID).Error
		if err != nil {
			return err
		}
		return audit(tx, &practice, &user, "correct birth year", fmt.Sprintf("%s: %d to %d", p.Code, birthYear+older, birthYear))
	})
	if err != nil {
		return fmt.Errorf("correcting the birth year: %w", err)
	}
	return nil
}

// FindPatient reads a patient's birth year and the newest draft that somebody sees of
// the patient's cases. It fails with ErrNotFound where there is none.
func (s *Store) FindPatient(ctx context.Context, r Reach, code string) (birthYear int, draft []byte, err error) {
	args := r.args()
	args["code"] = code
	var found struct {
		BirthYear int
		Draft     datatypes.JSON
	}
	result := s.db.WithContext(ctx).Raw(`
		select p.birth_year, c.draft from patient p
		join dental_case c on c.patient_id = p.id
		join app_user u on u.id = c.created_by
		where `+inReach+` and p.code = @code order by c.updated_at desc limit 1`, args).Scan(&found)
	if result.Error != nil {
		return 0, nil, fmt.Errorf("looking for the patient: %w", result.Error)
	}
	if result.RowsAffected == 0 {
		return 0, nil, ErrNotFound
	}
	return found.BirthYear, found.Draft, nil
}
