-- +goose Up
-- What happens at the chair has an id from the window where it was noted; its number is the
-- server's, so that two windows of one run never give the same one to two events.
alter table chair_event add column id uuid not null default gen_random_uuid();
alter table chair_event alter column id drop default;
create unique index chair_event_id on chair_event (run_id, id);

-- +goose Down
drop index chair_event_id;
alter table chair_event drop column id;
