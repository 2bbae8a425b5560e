create table record_picture (
  record_id uuid primary key references record on delete cascade, picture bytea not null, taken_at timestamptz not null default now());
comment on table record_picture is 'PNG of what a record shows, such as a saved view; beside it, so that lists stay small.';

insert into record (id, model_id, kind, version, document, position, author, changed_by, made_on, created_at, changed_at, deleted_at)
select id, model_id, 'saved-view', 1,
  jsonb_build_object('name', name, 'slot', slot, 'recall', recall, 'state', document, 'revision', revision),
  position, owner_id, owner_id, revision, created_at, updated_at, deleted_at
from saved_view on conflict (id) do nothing;

insert into record_picture (record_id, picture, taken_at)
select v.id, v.thumbnail, coalesce(v.thumbnail_at, v.updated_at) from saved_view v join record r on r.id = v.id
where v.thumbnail is not null and r.kind = 'saved-view';

drop table saved_view;
drop function tell_saved_view;
