-- +goose Up
-- What a revision was made from beside its case: kit, products, constants, house rules, the
-- drafts of the teeth beside it, and who it was for. Null of those fixed before it was kept.
alter table plan_revision add column basis jsonb check (jsonb_typeof(basis) = 'object');

-- The documents of a revision as they were made first, packed by gzip: they never change.
create table revision_file (
    revision_id uuid not null references plan_revision,
    name text not null check (length(name) between 1 and 60),
    content bytea not null,
    made_at timestamptz not null default now(),
    primary key (revision_id, name)
);
create trigger revision_file_fixed before update or delete on revision_file for each row execute function refuse_change();

-- +goose Down
drop table revision_file;
alter table plan_revision drop column basis;
