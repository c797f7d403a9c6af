-- +goose Up
-- A case that is cut again and again with a hand that errs, in chunks that any worker takes.
create table tolerance_job (
    id uuid primary key default gen_random_uuid(),
    case_id uuid not null references dental_case,
    user_id uuid not null references app_user,
    request_key uuid,
    case_document jsonb not null,
    rules jsonb, -- house rules as they were, null where a school's own are meant
    hand jsonb not null,
    runs integer not null check (runs between 1 and 2000),
    drawn jsonb, -- the checks of the drawn cavities, once a worker has made them
    started_at timestamptz not null default now(),
    cancelled_at timestamptz,
    failed text,
    unique (case_id, request_key)
);

create table tolerance_chunk (
    job_id uuid not null references tolerance_job,
    number integer not null,
    aim integer not null, -- -1 as the hand is
    first_seed bigint not null,
    runs integer not null check (runs > 0),
    claimed_at timestamptz,
    outcomes jsonb, -- once it is done
    done_at timestamptz,
    primary key (job_id, number)
);
create index tolerance_chunk_open on tolerance_chunk (job_id, number) where outcomes is null;

-- +goose Down
drop table tolerance_chunk;
drop table tolerance_job;
