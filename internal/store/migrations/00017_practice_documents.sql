-- +goose Up
-- What a practice keeps as documents of its own is in one table, every version of it: kit, products,
-- constants, and house rules under their own names. A version is never changed.
create table practice_document (
    practice_id uuid not null references practice,
    kind text not null check (kind in ('kit', 'products', 'constants') or kind ~ '^house-[a-z0-9]+(-[a-z0-9]+)*$'),
    version integer not null check (version > 0),
    document jsonb not null,
    base text check (length(base) > 0), -- of house rules the school that they were copied from
    changed_by uuid not null references app_user,
    changed_at timestamptz not null default now(),
    primary key (practice_id, kind, version),
    check ((base is not null) = (kind like 'house-%')),
    check (base is null or (document ->> 'id' = kind and document ->> 'version' = version::text))
);
insert into practice_document (practice_id, kind, version, document, changed_by, changed_at)
    select practice_id, 'kit', version, document, changed_by, changed_at from practice_kit union all
    select practice_id, 'products', version, document, changed_by, changed_at from practice_products union all
    select practice_id, 'constants', version, document, changed_by, changed_at from practice_constants;
insert into practice_document (practice_id, kind, version, document, base, changed_by, changed_at)
    select practice_id, slug, version, document, base, created_by, created_at from house_school;
create trigger practice_document_fixed before update or delete on practice_document for each row execute function refuse_change();
drop table practice_kit, practice_products, practice_constants, house_school;

alter table house_school_archived rename to practice_document_archived;
alter table practice_document_archived rename column slug to kind;
