create table record (
  id uuid primary key, model_id uuid not null references model on delete cascade, kind text not null, version int not null, document jsonb not null,
  position double precision not null default 0, author uuid references owner on delete set null, made_on int not null, changed_by uuid references owner on delete set null,
  created_at timestamptz not null default now(), changed_at timestamptz not null default now(), deleted_at timestamptz, rev int not null default 1);
comment on table record is 'What people keep of a model beside the model, one thing a row; kinds are those of the registry of contracts.';
comment on column record.id is 'Made by the page, so that sending it twice is one. Of kinds that a model has one of for each thing it is computed from the thing.';
comment on column record.version is 'Of the document, by its kind.';
comment on column record.made_on is 'Revision of the model.';
comment on column record.rev is 'Counts the changes: who changes an older one is told so and overwrites nothing.';
comment on column record.deleted_at is 'Since when it lies in the bin.';
create index record_by_model on record (model_id, id);
create index record_in_bin on record (deleted_at) where deleted_at is not null;

create function tell_record() returns trigger language plpgsql as $$
begin
  perform pg_notify('bathyscope_record', json_build_object('model', new.model_id, 'record', new.id, 'kind', new.kind, 'rev', new.rev)::text);
  return null;
end $$;
create trigger tell_record after insert or update on record for each row execute function tell_record();
comment on function tell_record is 'Every change of a record goes to whoever listens, in this process or another; the record itself is asked for.';

-- An identifier computed from names: a UUID of version 3 (RFC 9562) in the name space of the model.
create function named_uuid(space uuid, name text) returns uuid language sql immutable as $$
  select encode(set_byte(set_byte(hash, 6, (get_byte(hash, 6) & 15) | 48), 8, (get_byte(hash, 8) & 63) | 128), 'hex')::uuid
  from (select decode(md5(decode(replace(space::text, '-', ''), 'hex') || convert_to(name, 'UTF8')), 'hex') as hash) of_names
$$;

-- What lay in one document for each model: version 0 is what was written then.
with kept as (
    select p.model_id, p.owner_id, p.updated_at, m.revision, field.key, field.value
    from model_preference p join model m on m.id = p.model_id, jsonb_each(p.document) field
    where jsonb_typeof(p.document) = 'object'),
  listed as (
    select k.*, kinds.kind, entry.value as document, entry.position from kept k
    join (values ('pickSets', 'pick-set'), ('sections', 'section'), ('accepted', 'accepted-clash'), ('systems', 'reference-system'),
      ('sealed', 'sealed-hollow'), ('weights', 'kept-weight'), ('figures', 'ledger-entry')) as kinds (key, kind) using (key),
      jsonb_array_elements(case when jsonb_typeof(k.value) = 'array' then k.value else '[]' end) with ordinality as entry (value, position)
    where jsonb_typeof(entry.value) = 'object'),
  named as (
    select k.*, kinds.kind, entry.key as of,
      jsonb_build_object(kinds.thing, entry.key) || case when jsonb_typeof(entry.value) = 'object' then entry.value else jsonb_build_object(kinds.given, entry.value) end as document
    from kept k
    join (values ('names', 'component-name', 'component', 'name'), ('materials', 'part-material', 'part', 'material'),
      ('componentMaterials', 'component-material', 'component', 'material'), ('typedMasses', 'typed-mass', 'part', 'value')) as kinds (key, kind, thing, given) using (key),
      jsonb_each(case when jsonb_typeof(k.value) = 'object' then k.value else '{}' end) as entry
    where jsonb_typeof(entry.value) <> 'null'),
  all_of_them (model_id, owner_id, updated_at, revision, kind, id, document, position) as (
    select model_id, owner_id, updated_at, revision, kind,
      case when document->>'id' ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then (document->>'id')::uuid
        else named_uuid(model_id, kind || ' ' || coalesce(document->>'id', position::text)) end,
      document - 'id', position from listed
    union all
    select model_id, owner_id, updated_at, revision, kind, named_uuid(model_id, kind || ' ' || of), document, 0 from named
    union all
    select model_id, owner_id, updated_at, revision, 'up-axis', named_uuid(model_id, 'up-axis '), jsonb_build_object('axis', value), 0
    from kept where key = 'upAxis'
    union all
    select model_id, max(owner_id::text)::uuid, max(updated_at), max(revision), 'home', named_uuid(model_id, 'home '),
      jsonb_strip_nulls(jsonb_build_object('view', (jsonb_agg(value) filter (where key = 'home'))->0, 'framesVisible', (jsonb_agg(value) filter (where key = 'homeFramesVisible'))->0)), 0
    from kept where key in ('home', 'homeFramesVisible') group by model_id
    union all
    -- What no version knows stays, under its own name.
    select model_id, owner_id, updated_at, revision, left(key, 100), named_uuid(model_id, left(key, 100) || ' '), jsonb_build_object('value', value), 0
    from kept where key not in ('pickSets', 'sections', 'accepted', 'systems', 'sealed', 'weights', 'figures', 'names', 'materials',
      'componentMaterials', 'typedMasses', 'upAxis', 'home', 'homeFramesVisible'))
insert into record (id, model_id, kind, version, document, position, made_on, changed_by, created_at, changed_at)
select id, model_id, kind, 0, document, position, revision, owner_id, updated_at, updated_at from all_of_them
on conflict (id) do nothing;

drop function named_uuid;
drop table model_preference;

create function tell_model() returns trigger language plpgsql as $$
begin
  perform pg_notify('bathyscope_model', json_build_object('model', new.id)::text);
  return null;
end $$;
create trigger tell_model after insert or update on model for each row execute function tell_model();
comment on function tell_model is 'Every change of a model goes to whoever listens; the model itself is asked for.';
