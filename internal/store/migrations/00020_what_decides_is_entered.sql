-- +goose Up
-- An old filling without a fault is taken for sound from now on, and stays. In drafts that had one
-- cut out before that was asked, the choice to replace it is written down as what it was.
update dental_case set draft = jsonb_set(
        draft,
        '{choice}',
        coalesce(draft -> 'choice', '{}') || '{"treatment": "replace"}'
    )
    where draft @? '$.findings[*] ? (@.kind == "old_restoration" && !(@.stays == true) && !exists (@.fault))'
        and not draft @? '$.findings[*] ? (@.stays == true)';

-- What is left of caries is judged at the junction; what stays over the pulp has a criterion of its
-- own. House rules that name the former keep their figures under the new name.
alter table practice_document disable trigger practice_document_fixed;
update practice_document set document = jsonb_set(document, '{criteria}', (
    select jsonb_agg(case when c ->> 'id' = 'lesion.cleared' then c || '{"id": "lesion.junction"}' else c end order by place)
    from jsonb_array_elements(document -> 'criteria') with ordinality as listed(c, place)))
    where document @? '$.criteria[*] ? (@.id == "lesion.cleared")';
alter table practice_document enable trigger practice_document_fixed;

-- +goose Down
alter table practice_document disable trigger practice_document_fixed;
update practice_document set document = jsonb_set(document, '{criteria}', (
    select jsonb_agg(case when c ->> 'id' = 'lesion.junction' then c || '{"id": "lesion.cleared"}' else c end order by place)
    from jsonb_array_elements(document -> 'criteria') with ordinality as listed(c, place)))
    where document @? '$.criteria[*] ? (@.id == "lesion.junction")';
alter table practice_document enable trigger practice_document_fixed;
