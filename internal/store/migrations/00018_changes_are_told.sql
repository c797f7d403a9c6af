-- +goose Up
-- Whoever looks at something hears when it changes, whichever program changed it.
-- +goose StatementBegin
create function tell_change() returns trigger language plpgsql as $$
declare told jsonb;
begin
    case tg_table_name
    when 'job' then
        told := jsonb_build_object('practice', new.practice_id, 'what', new.kind, 'id', new.id, 'case', new.case_id);
    when 'job_part' then
        select jsonb_build_object('practice', practice_id, 'what', kind, 'id', id, 'case', case_id) into told from job where id = new.job_id;
    when 'dental_case' then
        told := jsonb_build_object('practice', new.practice_id, 'what', 'case', 'case', new.id, 'version', new.draft_version);
        if tg_op = 'UPDATE' and new.archived_at is distinct from old.archived_at then
            told := told || '{"what": "archived"}';
        end if;
    when 'plan_revision', 'case_summary' then
        select jsonb_build_object('practice', practice_id, 'what', case tg_table_name when 'plan_revision' then 'revision' else 'summary' end, 'case', id)
            into told from dental_case where id = new.case_id;
    when 'patient' then
        told := jsonb_build_object('practice', new.practice_id, 'what', 'patient');
    when 'chair_run' then
        select jsonb_build_object('practice', practice_id, 'what', 'run', 'id', new.id, 'case', id) into told from dental_case where id = new.case_id;
    when 'chair_event' then
        select jsonb_build_object('practice', c.practice_id, 'what', 'run', 'id', r.id, 'case', c.id) into told
            from chair_run r join dental_case c on c.id = r.case_id where r.id = new.run_id;
    when 'practice_document' then
        told := jsonb_build_object('practice', new.practice_id, 'what', case when new.base is null then new.kind else 'schools' end);
    when 'practice_document_archived' then
        told := jsonb_build_object('practice', coalesce(new.practice_id, old.practice_id), 'what', 'schools');
    end case;
    perform pg_notify('obturon_changes', jsonb_strip_nulls(told)::text);
    return null;
end $$;
-- +goose StatementEnd

create trigger job_told after insert or update of failed, cancelled_at, done_at on job for each row execute function tell_change();
create trigger job_part_told after update of share, done_at on job_part for each row
    when (old.share <> new.share or old.done_at is distinct from new.done_at) execute function tell_change();
create trigger dental_case_told after insert or update of draft_version, archived_at on dental_case for each row execute function tell_change();
create trigger plan_revision_told after insert on plan_revision for each row execute function tell_change();
create trigger case_summary_told after insert or update on case_summary for each row execute function tell_change();
create trigger patient_told after update on patient for each row execute function tell_change();
create trigger chair_run_told after insert or update of finished_at on chair_run for each row execute function tell_change();
create trigger chair_event_told after insert on chair_event for each row execute function tell_change();
create trigger practice_document_told after insert on practice_document for each row execute function tell_change();
create trigger practice_document_archived_told after insert or delete on practice_document_archived for each row execute function tell_change();
