-- +goose Up
-- House rules wrote "at least" as a target up to 9 or 99 mm. The open end is now
-- left out, as in the shipped schools; what the rules ask for stays the same.
update house_school set document = jsonb_set(document, '{criteria}', (
    select coalesce(jsonb_agg(
        (c #- case when (c #>> '{target,max}')::numeric >= 9 and c ->> 'unit' = 'mm' then '{target,max}'::text[] else '{-}' end)
           #- case when (c #>> '{limits,max}')::numeric >= 9 and c ->> 'unit' = 'mm' then '{limits,max}'::text[] else '{-}' end
        order by place), '[]')
    from jsonb_array_elements(document -> 'criteria') with ordinality as listed(c, place)))
where jsonb_typeof(document -> 'criteria') = 'array';

-- +goose Down
update house_school set document = jsonb_set(document, '{criteria}', (
    select coalesce(jsonb_agg(c
        || case when c ->> 'unit' = 'mm' and c -> 'target' ? 'min' and not c -> 'target' ? 'max' then jsonb_build_object('target', c -> 'target' || '{"max": 9}') else '{}' end
        || case when c ->> 'unit' = 'mm' and c -> 'limits' ? 'min' and not c -> 'limits' ? 'max' then jsonb_build_object('limits', c -> 'limits' || '{"max": 9}') else '{}' end
        order by place), '[]')
    from jsonb_array_elements(document -> 'criteria') with ordinality as listed(c, place)))
where jsonb_typeof(document -> 'criteria') = 'array';
