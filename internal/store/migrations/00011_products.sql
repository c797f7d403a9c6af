-- +goose Up
-- What a practice fills with.
create table practice_products (
    practice_id uuid primary key references practice,
    version integer not null check (version > 0),
    document jsonb not null,
    changed_by uuid not null references app_user,
    changed_at timestamptz not null default now()
);

-- +goose Down
drop table practice_products;
