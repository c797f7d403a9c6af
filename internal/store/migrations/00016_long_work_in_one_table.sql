-- +goose Up
-- All long work is a job in parts, of which any worker takes one at a time: a proof is one part,
-- a tolerance run some dozens.
alter table job
    add column case_id uuid references dental_case, -- null of what belongs to none
    add column priority smallint not null default 1 check (priority in (1, 2)), -- 1 interactive, 2 batch
    add column shared jsonb, -- what its parts have in common, once one of them has made it
    add column cancelled_at timestamptz,
    drop constraint job_key_check,
    add constraint job_key_check check (length(key) between 1 and 120);

create table job_part (
    job_id uuid not null references job on delete cascade,
    number integer not null check (number >= 0),
    input jsonb, -- null where the job's says it all
    share double precision not null default 0 check (share between 0 and 1),
    result jsonb, -- once it is done
    done_at timestamptz,
    attempts integer not null default 0, -- that workers have made at it
    claimed_at timestamptz,
    leased_until timestamptz, -- by the worker that is at it, which renews it
    primary key (job_id, number)
);
create index job_part_claimed on job_part (claimed_at);
create index job_of_case on job (case_id, kind, started_at);

update job set priority = 2 where wanted_until is null;
insert into job_part (job_id, number, share, result, done_at)
    select id, 0, share, result, done_at from job;
alter table job drop column share, drop column result; -- and with them the index job_open
create index job_open on job (started_at) where done_at is null and failed is null and cancelled_at is null;

insert into job (id, practice_id, user_id, case_id, kind, key, priority, input, shared, failed, cancelled_at, started_at, done_at)
    select t.id, c.practice_id, t.user_id, t.case_id, 'tolerance', t.id::text, 2,
        jsonb_build_object('case', t.case_document, 'rules', t.rules, 'kit', t.kit, 'hand', t.hand, 'runs', t.runs), t.drawn,
        t.failed, t.cancelled_at, t.started_at,
        (select max(done_at) from tolerance_chunk where job_id = t.id having bool_and(outcomes is not null))
    from tolerance_job t join dental_case c on c.id = t.case_id;
insert into job_part (job_id, number, input, share, result, done_at)
    select job_id, number, jsonb_build_object('aim', aim, 'first_seed', first_seed, 'runs', runs),
        case when outcomes is null then 0 else 1 end, outcomes, done_at
    from tolerance_chunk;

insert into job (id, practice_id, user_id, case_id, kind, key, priority, input, failed, cancelled_at, started_at, done_at)
    select f.id, c.practice_id, f.user_id, f.case_id, 'fine_deflection',
        f.id::text, 1,
        jsonb_build_object('case', f.case_document, 'rules', f.rules, 'loading', f.loading),
        f.failed, f.cancelled_at, f.started_at, case when f.result is null then null else f.started_at end
    from fine_run f join dental_case c on c.id = f.case_id;
insert into job_part (job_id, number, share, result, done_at)
    select id, 0, share, result, case when result is null then null else started_at end from fine_run;

drop table tolerance_chunk;
drop table tolerance_job;
drop table fine_run;

-- What waits in the queue under its former names is queued anew as the program starts.
-- +goose StatementBegin
do $$ begin
    if to_regclass('river_job') is not null then
        delete from river_job where kind in ('tolerance_part', 'fine_deflection', 'job') and state <> 'completed';
    end if;
end $$;
-- +goose StatementEnd
