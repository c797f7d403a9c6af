// Package store keeps practices, users, patients, cases and plan revisions in
// PostgreSQL. Constraints live in the database; see migrations.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"time"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"gorm.io/datatypes"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// ErrNotFound means that the practice has no such row.
var ErrNotFound = errors.New("not found")

// Practice is one clinic.
type Practice struct {
	ID   uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	Name string
	// DemonstrationLoadedAt is when the demonstration came into it; nil elsewhere.
	DemonstrationLoadedAt *time.Time
}

// TableName names the table for GORM.
func (Practice) TableName() string { return "practice" }

// User signs in and works for a practice.
type User struct {
	ID           uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	PracticeID   uuid.UUID
	Practice     Practice
	SignIn       string
	Name         string
	Role         string
	PasswordHash string
	ArchivedAt   *time.Time
}

// TableName names the table for GORM.
func (User) TableName() string { return "app_user" }

// Patient is known by a code.
type Patient struct {
	ID         uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	PracticeID uuid.UUID
	Code       string
	BirthYear  int
	Flags      datatypes.JSON
}

// TableName names the table for GORM.
func (Patient) TableName() string { return "patient" }

// Case is one tooth's job, with its draft.
type Case struct {
	ID                uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	PracticeID        uuid.UUID
	PatientID         uuid.UUID
	Patient           Patient
	Tooth             string
	Draft             datatypes.JSON
	DraftVersion      int // counts the changes of the draft
	RequestKey        *uuid.UUID
	ConfirmedByMethod string
	ConfirmedAnswer   string
	CreatedBy         uuid.UUID
	Creator           User `gorm:"foreignKey:CreatedBy"`
	ArchivedAt        *time.Time
	CreatedAt         time.Time
	UpdatedAt         time.Time
	Revisions         []Revision `gorm:"foreignKey:CaseID"`
}

// TableName names the table for GORM.
func (Case) TableName() string { return "dental_case" }

// Revision is a plan as it was fixed. It is never changed.
type Revision struct {
	ID           uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	CaseID       uuid.UUID
	Number       int
	CaseDocument datatypes.JSON
	PlanDocument datatypes.JSON
	Basis        datatypes.JSON // what it rests on beside the case; null of those fixed before it was kept
	CoreVersion  string
	RequestKey   *uuid.UUID
	Class        string
	Material     string
	School       string
	Verdict      string
	CreatedBy    uuid.UUID
	Author       User `gorm:"foreignKey:CreatedBy"`
	CreatedAt    time.Time
}

// TableName names the table for GORM.
func (Revision) TableName() string { return "plan_revision" }

// Store is the practice's memory.
type Store struct {
	db    *gorm.DB
	sql   *sql.DB
	queue *river.Client[*sql.Tx] // that jobs are put into
}

//go:embed migrations/*.sql
var migrations embed.FS

// Open connects and brings the database to this version's schema. It fails where
// the database is newer than this program.
func Open(ctx context.Context, url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), &gorm.Config{
		Logger: logger.Default.LogMode(logger.Silent), // errors are returned, not printed
	})
	if err != nil {
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(16)
	s := &Store{db: db, sql: pool}
	if err := s.ready(ctx); err != nil {
		pool.Close()
		return nil, err
	}
	return s, nil
}

func (s *Store) ready(ctx context.Context) (err error) {
	if err := migrate(ctx, s.sql); err != nil {
		return err
	}
	if err := migrateQueue(ctx, s.sql); err != nil {
		return err
	}
	if s.queue, err = river.NewClient(riverdatabasesql.New(s.sql), &river.Config{}); err != nil {
		return fmt.Errorf("opening the queue: %w", err)
	}
	return nil
}

func migrate(ctx context.Context, pool *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	// Two programs that start at once must not both migrate.
	one, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return fmt.Errorf("making the lock for migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(one))
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	at, err := provider.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("asking the database for its version: %w", err)
	}
	sources := provider.ListSources()
	if newest := sources[len(sources)-1].Version; at > newest {
		return fmt.Errorf(
			"the database is at version %d, newer than this program knows (%d): start the newer program, or name another database in OBTURON_DATABASE_URL",
			at,
			newest,
		)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("bringing the database up to date: %w", err)
	}
	return nil
}

// SQL is the connection pool, for the session store.
func (s *Store) SQL() *sql.DB { return s.sql }

// Close ends all connections. The error is the driver's.
func (s *Store) Close() error { return s.sql.Close() }

// Ping reports whether the database answers. The error is the database's.
func (s *Store) Ping(ctx context.Context) error { return s.sql.PingContext(ctx) }

// orNotFound turns GORM's missing row into ErrNotFound.
func orNotFound(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
