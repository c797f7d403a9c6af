-- +goose Up
-- House rules: a practice's own schools. A version is never changed or deleted,
-- so that plans keep the one they were made under.
create table house_school (
    id uuid primary key default gen_random_uuid(),
    practice_id uuid not null references practice,
    slug text not null check (slug ~ '^house-[a-z0-9]+(-[a-z0-9]+)*$'),
    version integer not null check (version >= 1),
    base text not null check (length(base) > 0),
    document jsonb not null check (document ->> 'id' = slug and document ->> 'version' = version::text),
    created_by uuid not null references app_user,
    created_at timestamptz not null default now(),
    unique (practice_id, slug, version)
);

-- +goose Down
drop table house_school;
