-- +goose Up
create table practice (
    id uuid primary key default gen_random_uuid(),
    name text not null check (length(trim(name)) between 1 and 200),
    created_at timestamptz not null default now()
);

create table app_user (
    id uuid primary key default gen_random_uuid(),
    practice_id uuid not null references practice,
    sign_in text not null unique check (sign_in = lower(sign_in) and length(sign_in) between 1 and 100),
    name text not null check (length(trim(name)) between 1 and 200),
    role text not null check (role in ('dentist', 'learner', 'teacher', 'administrator')),
    password_hash text not null,
    archived_at timestamptz,
    created_at timestamptz not null default now()
);

-- Patients are known by a code, a birth year and flags; never by name.
create table patient (
    id uuid primary key default gen_random_uuid(),
    practice_id uuid not null references practice,
    code text not null check (code ~ '^[A-Z]{2,4}-[0-9]{1,6}$'),
    birth_year integer not null check (birth_year between 1900 and 2100),
    flags jsonb not null default '{}',
    created_at timestamptz not null default now(),
    unique (practice_id, code),
    unique (id, practice_id)
);

create table dental_case (
    id uuid primary key default gen_random_uuid(),
    practice_id uuid not null references practice,
    patient_id uuid not null,
    tooth text not null check (tooth ~ '^([1-4][1-8]|[5-8][1-5])$'),
    draft jsonb not null check (draft ->> 'tooth' = tooth),
    -- The second naming of the tooth that unlocks the plan.
    confirmed_by_method text not null check (confirmed_by_method in ('count', 'universal', 'quadrant')),
    confirmed_answer text not null check (length(trim(confirmed_answer)) > 0),
    created_by uuid not null references app_user,
    archived_at timestamptz,
    created_at timestamptz not null default now(),
    updated_at timestamptz not null default now(),
    foreign key (patient_id, practice_id) references patient (id, practice_id)
);
create index dental_case_day_sheet on dental_case (practice_id, updated_at desc) where archived_at is null;

create table plan_revision (
    id uuid primary key default gen_random_uuid(),
    case_id uuid not null references dental_case,
    number integer not null check (number >= 1),
    case_document jsonb not null check (case_document ->> 'schema' like 'obturon.case/%'),
    plan_document jsonb not null check (plan_document ->> 'schema' like 'obturon.plan/%'),
    core_version text not null check (length(core_version) > 0),
    created_by uuid not null references app_user,
    created_at timestamptz not null default now(),
    unique (case_id, number)
);

create table audit_entry (
    id bigint generated always as identity primary key,
    practice_id uuid not null references practice,
    user_id uuid references app_user,
    action text not null check (length(action) > 0),
    subject text not null default '',
    at timestamptz not null default now()
);

-- Revisions and audit entries are written once.
-- +goose StatementBegin
create function refuse_change() returns trigger language plpgsql as $$
begin
    raise exception '% rows are never changed or deleted', tg_table_name;
end $$;
-- +goose StatementEnd
create trigger plan_revision_fixed before update or delete on plan_revision for each row execute function refuse_change();
create trigger audit_entry_fixed before update or delete on audit_entry for each row execute function refuse_change();

create table sessions (
    token text primary key,
    data bytea not null,
    expiry timestamptz not null
);
create index sessions_expiry on sessions (expiry);

-- +goose Down
drop table sessions, audit_entry, plan_revision, dental_case, patient, app_user, practice;
drop function refuse_change;
