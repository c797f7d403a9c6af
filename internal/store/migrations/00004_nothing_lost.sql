-- +goose Up
-- Drafts have a version: whoever saves or fixes says which one it was made from.
alter table dental_case add column draft_version integer not null default 1 check (draft_version >= 1);

-- A request that is sent twice is done once.
alter table dental_case add column request_key uuid;
alter table dental_case add constraint dental_case_once unique (practice_id, request_key);
alter table plan_revision add column request_key uuid;
alter table plan_revision add constraint plan_revision_once unique (case_id, request_key);

-- What the day sheet shows of a revision, so that it need not read whole plans.
alter table plan_revision add column class text not null default '';
alter table plan_revision add column material text not null default '';
alter table plan_revision add column school text not null default '';
alter table plan_revision add column verdict text not null default '';
alter table plan_revision disable trigger plan_revision_fixed;
update plan_revision set
    class = coalesce(plan_document ->> 'class', ''), material = coalesce(plan_document ->> 'material', ''), school = coalesce(plan_document ->> 'school', ''),
    verdict = case when plan_document @? '$.checks[*] ? (@.verdict == "missed")' then 'missed'
                   when plan_document @? '$.checks[*] ? (@.verdict == "near")' then 'near' else 'met' end;
alter table plan_revision enable trigger plan_revision_fixed;
create index dental_case_of_patient on dental_case (patient_id) where archived_at is null;
create index dental_case_archived on dental_case (practice_id, archived_at desc) where archived_at is not null;

-- House rules are written once, like revisions; archiving them is a mark of its own.
create trigger house_school_fixed before update or delete on house_school for each row execute function refuse_change();
create table house_school_archived (
    practice_id uuid not null references practice,
    slug text not null,
    archived_by uuid not null references app_user,
    archived_at timestamptz not null default now(),
    primary key (practice_id, slug)
);

-- Sign-ins that fail belong to no practice.
alter table audit_entry alter column practice_id drop not null;
create index audit_entry_recent on audit_entry (subject, action, at desc);

-- The demonstration is loaded once, into its own practice.
alter table practice add column demonstration_loaded_at timestamptz;
update practice set demonstration_loaded_at = created_at where name = 'Halvarra Island Clinic' and exists (select from dental_case where practice_id = practice.id);

-- Tokens are kept as hashes from now on: everyone signs in again.
delete from sessions;

-- +goose Down
alter table practice drop column demonstration_loaded_at;
drop index audit_entry_recent;
alter table audit_entry disable trigger audit_entry_fixed;
delete from audit_entry where practice_id is null;
alter table audit_entry enable trigger audit_entry_fixed;
alter table audit_entry alter column practice_id set not null;
drop table house_school_archived;
drop trigger house_school_fixed on house_school;
drop index dental_case_archived, dental_case_of_patient;
alter table plan_revision drop column class, drop column material, drop column school, drop column verdict, drop column request_key;
alter table dental_case drop column request_key, drop column draft_version;
