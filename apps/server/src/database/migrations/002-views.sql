create table saved_view (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner, model_id uuid not null references model on delete cascade,
  revision int not null, name text not null, position double precision not null, slot smallint check (slot between 1 and 9),
  recall jsonb not null default '{"camera": true, "projection": true, "visibility": true, "style": true, "section": true}', document jsonb not null,
  thumbnail bytea, thumbnail_at timestamptz, created_at timestamptz not null default now(), updated_at timestamptz not null default now(), deleted_at timestamptz);
comment on column saved_view.revision is 'Revision of the model that the view was saved in.';
comment on column saved_view.recall is 'Which parts of the document are taken when the view is recalled.';
comment on column saved_view.slot is 'The number key that recalls it; one view a slot.';
create index saved_view_by_model on saved_view (model_id, position);
create unique index saved_view_slot on saved_view (model_id, owner_id, slot) where slot is not null and deleted_at is null;

create table view_link (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner, model_id uuid not null references model on delete cascade,
  revision int not null, document jsonb not null, created_at timestamptz not null default now());
comment on table view_link is 'States that links lead to; never changed, so that a link shows what its sender saw.';

create table model_preference (
  model_id uuid not null references model on delete cascade, owner_id uuid not null references owner, revision int not null default 1,
  document jsonb not null, updated_at timestamptz not null default now(), primary key (model_id, owner_id));
comment on table model_preference is 'What a user set about one model: its up axis and where Home leads.';

create table user_setting (
  owner_id uuid primary key references owner, revision int not null default 1, document jsonb not null, updated_at timestamptz not null default now());
comment on table user_setting is 'What a user set about the interface: gestures, keys, colours.';
