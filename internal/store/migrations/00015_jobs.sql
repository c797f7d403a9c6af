-- +goose Up
-- Long work that anybody with the same question shares: known by a key of all that it depends
-- on, done once by any worker, and kept.
create table job (
    id uuid primary key default gen_random_uuid(),
    practice_id uuid not null references practice,
    user_id uuid not null references app_user, -- who asked first
    kind text not null check (kind ~ '^[a-z_]{1,40}$'),
    key text not null check (length(key) between 1 and 100),
    input jsonb not null,
    share double precision not null default 0 check (share between 0 and 1),
    result jsonb, -- once it is done
    failed text, -- why it cannot be done
    wanted_until timestamptz, -- by whoever looks; null where it is wanted for good
    started_at timestamptz not null default now(),
    done_at timestamptz,
    unique (practice_id, kind, key)
);
create index job_open on job (started_at) where result is null and failed is null;

-- +goose Down
drop table job;
