-- +goose Up
-- What a practice assumes of tissues and loads otherwise than is shipped.
create table practice_constants (
    practice_id uuid primary key references practice,
    version integer not null check (version > 0),
    document jsonb not null,
    changed_by uuid not null references app_user,
    changed_at timestamptz not null default now()
);

-- A tooth that is loaded on fine cells, by any worker.
create table fine_run (
    id uuid primary key default gen_random_uuid(),
    case_id uuid not null references dental_case,
    user_id uuid not null references app_user,
    digest text not null, -- of all that it depends on
    case_document jsonb not null,
    rules jsonb, -- house rules as they were, null where a school's own are meant
    loading jsonb not null,
    share double precision not null default 0 check (share between 0 and 1),
    result jsonb, -- once it is done
    started_at timestamptz not null default now(),
    cancelled_at timestamptz,
    failed text
);
-- Nothing is computed twice.
create unique index fine_run_once on fine_run (case_id, digest) where cancelled_at is null and failed is null;

-- Parts are queued as jobs, which know who works on them.
drop index tolerance_chunk_open;
alter table tolerance_chunk drop column claimed_at;

-- +goose Down
alter table tolerance_chunk add column claimed_at timestamptz;
create index tolerance_chunk_open on tolerance_chunk (job_id, number) where outcomes is null;
drop table fine_run;
drop table practice_constants;
