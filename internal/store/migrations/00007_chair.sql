-- +goose Up
-- A sequence as somebody goes through it at the chair, with the steps as they were then.
create table chair_run (
    id uuid primary key default gen_random_uuid(),
    case_id uuid not null references dental_case,
    user_id uuid not null references app_user,
    request_key uuid,
    case_document jsonb not null,
    sequence jsonb not null,
    examination boolean not null default false,
    limit_minutes integer not null default 0 check (limit_minutes between 0 and 600),
    started_at timestamptz not null default now(),
    finished_at timestamptz,
    unique (case_id, request_key)
);
create index chair_run_of_user on chair_run (user_id, started_at);

-- What happened in it. Numbers are given at the chair, so that what is sent twice is kept once.
create table chair_event (
    run_id uuid not null references chair_run,
    number integer not null check (number > 0),
    kind text not null check (length(kind) > 0),
    step integer not null check (step >= 0),
    at_seconds numeric not null check (at_seconds >= 0),
    mm numeric not null default 0,
    kept_at timestamptz not null default now(),
    primary key (run_id, number)
);

-- +goose Down
drop table chair_event;
drop table chair_run;
