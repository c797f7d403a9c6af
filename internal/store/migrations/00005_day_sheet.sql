-- +goose Up
-- What the day sheet shows of a draft's plan. It is made anew from the draft whenever
-- draft, rules or core have changed, so that nothing is lost with it.
create table case_summary (
    case_id uuid primary key references dental_case,
    draft_version integer not null,
    core_version text not null,
    class text not null,
    material text not null,
    school text not null,
    verdict text not null check (verdict in ('met', 'near', 'missed', 'refused')),
    refused text not null,
    surfaces text not null,
    emblem jsonb not null,
    words text not null, -- that a search finds it by, in small letters
    made_at timestamptz not null default now()
);

-- +goose Down
drop table case_summary;
