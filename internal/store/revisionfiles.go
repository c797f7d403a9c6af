package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// revisionFile is a document of a revision as it was made first.
type revisionFile struct {
	RevisionID uuid.UUID `gorm:"primaryKey"`
	Name       string    `gorm:"primaryKey"`
	Content    []byte    // packed by gzip
	MadeAt     time.Time `gorm:"default:now()"`
}

// TableName names the table for GORM.
func (revisionFile) TableName() string { return "revision_file" }

// RevisionFile is a document of a revision that was made before; nil where it was not.
// Errors are the database's.
func (s *Store) RevisionFile(ctx context.Context, revision uuid.UUID, name string) ([]byte, error) {
	var f revisionFile
	found := s.db.WithContext(ctx).Where("revision_id = ? and name = ?", revision, name).Limit(1).Find(&f)
	if found.Error != nil {
		return nil, fmt.Errorf("reading %s of a revision: %w", name, found.Error)
	}
	if found.RowsAffected == 0 {
		return nil, nil
	}
	packed, err := gzip.NewReader(bytes.NewReader(f.Content))
	if err != nil {
		return nil, fmt.Errorf("unpacking %s of a revision: %w", name, err)
	}
	content, err := io.ReadAll(packed)
	if err != nil {
		return nil, fmt.Errorf("unpacking %s of a revision: %w", name, err)
	}
	return content, nil
}

// KeepRevisionFile keeps a document of a revision for good, and gives what is kept: that of
// whoever was first. Errors are the database's.
func (s *Store) KeepRevisionFile(ctx context.Context, revision uuid.UUID, name string, content []byte) ([]byte, error) {
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	if _, err := w.Write(content); err != nil {
		return nil, err
	}
	if err := w.Close(); err != nil {
		return nil, err
	}
	f := revisionFile{RevisionID: revision, Name: name, Content: packed.Bytes()}
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&f).Error; err != nil {
		return nil, fmt.Errorf("keeping %s of a revision: %w", name, err)
	}
	return s.RevisionFile(ctx, revision, name)
}

// Unprinted is the newest revision, with its practice, that a version of the core fixed and that
// lacks any of some documents, but for some revisions; it fails with ErrNotFound where there is
// none.
func (s *Store) Unprinted(
	ctx context.Context,
	core string,
	documents []string,
	but []uuid.UUID,
) (practice uuid.UUID, r *Revision, err error) {
	q := s.db.WithContext(ctx).
		Where("core_version = ? and basis is not null", core).
		Where("(select count(*) from revision_file f where f.revision_id = plan_revision.id and f.name in ?) < ?", documents, len(documents))
	if len(but) > 0 {
		q = q.Where("id not in ?", but)
	}
	r = &Revision{}
	if err := q.Order("created_at desc").First(r).Error; err != nil {
		return uuid.Nil, nil, orNotFound(err)
	}
	var c Case
	if err := s.db.WithContext(ctx).Select("practice_id").First(&c, "id = ?", r.CaseID).Error; err != nil {
		return uuid.Nil, nil, err
	}
	return c.PracticeID, r, nil
}
