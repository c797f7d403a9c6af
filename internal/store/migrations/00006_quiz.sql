-- +goose Up
-- What somebody answered about a tooth. A question counts once.
create table quiz_result (
    user_id uuid not null references app_user,
    tooth text not null check (tooth ~ '^([1-4][1-8]|[5-8][1-5])$'),
    age_years numeric not null,
    question bigint not null,
    kind text not null check (length(kind) > 0),
    "right" boolean not null,
    at timestamptz not null default now(),
    primary key (user_id, tooth, age_years, question)
);

-- +goose Down
drop table quiz_result;
