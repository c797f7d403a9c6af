-- +goose Up
-- Which versions of the practice's documents a run at the chair was made with, by kind; null of those
-- begun before that was kept.
alter table chair_run add column made_with jsonb check (jsonb_typeof(made_with) = 'object');

-- +goose Down
alter table chair_run drop column made_with;
