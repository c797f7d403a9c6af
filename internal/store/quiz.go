package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// QuizResult is one answered question about a tooth.
type QuizResult struct {
	UserID   uuid.UUID `gorm:"primaryKey"`
	Tooth    string    `gorm:"primaryKey"`
	AgeYears float64   `gorm:"primaryKey"`
	Question int       `gorm:"primaryKey;autoIncrement:false"`
	Kind     string
	Right    bool
	At       time.Time
}

// TableName names the table for GORM.
func (QuizResult) TableName() string { return "quiz_result" }

// KeepQuizResult keeps an answer; the first to a question stays. Errors are the
// database's.
func (s *Store) KeepQuizResult(ctx context.Context, r QuizResult) error {
	r.At = time.Now()
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&r).Error; err != nil {
		return fmt.Errorf("keeping the answer: %w", err)
	}
	return nil
}

// QuizTally counts somebody's answers of one kind.
type QuizTally struct {
	UserID       uuid.UUID
	Name         string
	Kind         string
	Asked, Right int
}

// QuizTallies counts the answers of those whose cases somebody sees, the user's own
// first. Errors are the database's.
func (s *Store) QuizTallies(ctx context.Context, r Reach) ([]QuizTally, error) {
	var all []QuizTally
	err := s.db.WithContext(ctx).Raw(`
		select u.id as user_id, u.name, q.kind, count(*) as asked, count(*) filter (where q."right") as "right"
		from quiz_result q join app_user u on u.id = q.user_id
		where u.practice_id = @practice and (@all or u.id = @user or u.role = any(string_to_array(@roles, ',')))
		group by u.id, u.name, q.kind order by u.id <> @user, u.name, u.id, q.kind`, r.args()).Scan(&all).Error
	if err != nil {
		return nil, fmt.Errorf("counting the answers: %w", err)
	}
	return all, nil
}
