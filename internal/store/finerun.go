package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gorm.io/datatypes"
	"gorm.io/gorm"
)

// FineRun is a tooth that is loaded on fine cells.
type FineRun struct {
	ID           uuid.UUID `gorm:"default:gen_random_uuid()"`
	CaseID       uuid.UUID
	UserID       uuid.UUID
	Digest       string // of all that it depends on
	CaseDocument datatypes.JSON
	Rules        datatypes.JSON // house rules as they were; null where a school's own are meant
	Loading      datatypes.JSON
	Share        float64        // of the work that is done, 0 to 1
	Result       datatypes.JSON // once it is done
	StartedAt    time.Time      `gorm:"default:now()"`
	CancelledAt  *time.Time
	Failed       *string
}

// TableName names the table for GORM.
func (FineRun) TableName() string { return "fine_run" }

// Open reports a run that is still to be done.
func (r *FineRun) Open() bool { return r.Result == nil && r.CancelledAt == nil && r.Failed == nil }

// StartFineRun keeps a run and queues it. One of the same digest that runs or is done is
// answered in its place: nothing is computed twice. Errors are those of StartRun.
func (s *Store) StartFineRun(ctx context.Context, practice uuid.UUID, r FineRun) (*FineRun, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if _, err := lockCase(tx, practice, r.CaseID); err != nil {
			return err
		}
		var known FineRun
		found := tx.Where("case_id = ? and digest = ? and cancelled_at is null and failed is null", r.CaseID, r.Digest).Limit(1).Find(&known)
		if found.Error != nil {
			return found.Error
		}
		if found.RowsAffected > 0 { // it is the newest again
			r = known
			return tx.Model(&FineRun{}).Where("id = ?", r.ID).Update("started_at", gorm.Expr("now()")).Error
		}
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		if err := s.enqueue(ctx, tx, []river.InsertManyParams{{Args: FineParting{r.ID}, InsertOpts: options(watched)}}); err != nil {
			return err
		}
		return audit(tx, &practice, &r.UserID, "start fine parting", r.ID.String())
	})
	if err != nil {
		return nil, fmt.Errorf("starting the computation on fine cells: %w", err)
	}
	return &r, nil
}

// FineRun finds a run. It fails with ErrNotFound where there is none of that id.
func (s *Store) FineRun(ctx context.Context, id uuid.UUID) (*FineRun, error) {
	var r FineRun
	if err := s.db.WithContext(ctx).First(&r, "id = ?", id).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &r, nil
}

// LastFineRun is the newest run of a case; nil where it has none. Errors are the database's.
func (s *Store) LastFineRun(ctx context.Context, caseID uuid.UUID) (*FineRun, error) {
	var r FineRun
	found := s.db.WithContext(ctx).Where("case_id = ?", caseID).Order("started_at desc").Limit(1).Find(&r)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &r, nil
}

// KeepShare keeps how far a run is; open is false of one that was ended meanwhile, and need
// not be gone on with. Errors are the database's.
func (s *Store) KeepShare(ctx context.Context, id uuid.UUID, share float64) (open bool, err error) {
	kept := s.db.WithContext(ctx).Model(&FineRun{}).Where("id = ? and cancelled_at is null and failed is null and result is null", id).Update("share", share)
	return kept.RowsAffected > 0, kept.Error
}

// KeepFineResult keeps what a run came to; the first answer stays. Errors are the database's.
func (s *Store) KeepFineResult(ctx context.Context, id uuid.UUID, result []byte) error {
	done := map[string]any{"result": datatypes.JSON(result), "share": 1}
	return s.db.WithContext(ctx).Model(&FineRun{}).Where("id = ? and result is null", id).Updates(done).Error
}

// FailFineRun ends a run that cannot be done, with the reason. Errors are the database's.
func (s *Store) FailFineRun(ctx context.Context, id uuid.UUID, why string) error {
	return s.db.WithContext(ctx).Model(&FineRun{}).Where("id = ?", id).Update("failed", why).Error
}

// CancelFineRun ends a run of a case that is not done. It fails with ErrNotFound where the
// case has no such run.
func (s *Store) CancelFineRun(ctx context.Context, caseID, id uuid.UUID) (*FineRun, error) {
	var r FineRun
	if err := s.db.WithContext(ctx).First(&r, "case_id = ? and id = ?", caseID, id).Error; err != nil {
		return nil, orNotFound(err)
	}
	ended := s.db.WithContext(ctx).Model(&FineRun{}).Where("id = ? and result is null", id).Update("cancelled_at", gorm.Expr("coalesce(cancelled_at, now())"))
	if ended.Error != nil {
		return nil, ended.Error
	}
	return s.FineRun(ctx, id)
}
