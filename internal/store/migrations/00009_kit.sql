-- +goose Up
-- What a practice has of the instruments: one document, whose version tells changes apart.
create table practice_kit (
    practice_id uuid primary key references practice,
    version integer not null check (version > 0),
    document jsonb not null,
    changed_by uuid not null references app_user,
    changed_at timestamptz not null default now()
);
alter table tolerance_job add column kit jsonb; -- as it was, null where all instruments lay ready

-- +goose Down
alter table tolerance_job drop column kit;
drop table practice_kit;
