-- +goose Up
-- Several teeth may be gone through in one run: each with its case and what was planned of it.
alter table chair_run add column visits jsonb check (jsonb_typeof(visits) = 'array');
create index chair_run_visits on chair_run using gin (visits jsonb_path_ops);

-- +goose Down
drop index chair_run_visits;
alter table chair_run drop column visits;
