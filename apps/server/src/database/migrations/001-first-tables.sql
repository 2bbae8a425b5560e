create table owner (id uuid primary key, name text not null, created_at timestamptz not null default now());
comment on table owner is 'Who rows belong to; one local profile until accounts come.';
insert into owner (id, name) values ('00000000-0000-4000-8000-000000000001', 'Local profile');

create table setting (key text primary key, value jsonb not null);
comment on table setting is 'Facts about this installation, such as that the demo was loaded.';

create table source_file (
  hash text primary key, owner_id uuid not null references owner, size bigint not null, created_at timestamptz not null default now());
comment on table source_file is 'An uploaded file, known by the SHA-256 of its bytes.';
create table source_chunk (
  hash text not null references source_file on delete cascade, position int not null, bytes bytea not null, primary key (hash, position));
alter table source_chunk alter column bytes set storage external;
comment on table source_chunk is 'The bytes of a source file in rows of about 1 MB.';

create table model (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner, name text not null,
  revision int not null default 1, created_at timestamptz not null default now(), updated_at timestamptz not null default now(), deleted_at timestamptz);
comment on column model.revision is 'Number of the newest revision.';
comment on column model.deleted_at is 'Set when deleted; the row stays, so that deleting can be undone.';

create table revision (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner,
  model_id uuid not null references model on delete cascade, revision int not null, file_name text not null,
  file_hash text not null references source_file, state text not null default 'converting' check (state in ('converting', 'ready')),
  format text, schema text, length_unit text, structure jsonb, summary jsonb, warnings jsonb not null default '[]',
  thumbnail bytea, thumbnail_at timestamptz, created_at timestamptz not null default now(), unique (model_id, revision));
comment on column revision.structure is 'ModelStructure of core: tree and parts; parts name their geometry by hash.';
create index revision_by_file on revision (file_hash);

create table geometry (
  hash text primary key, owner_id uuid not null references owner, revision int not null default 1, triangles int not null, raw_size int not null,
  container bytea not null, shape bytea not null, created_at timestamptz not null default now());
alter table geometry alter column container set storage external;
alter table geometry alter column shape set storage external;
comment on table geometry is 'Part geometry by content: stored once, whatever uses it.';
comment on column geometry.container is 'Geometry container of contracts, brotli.';
comment on column geometry.shape is 'Source shape for questions to the kernel, brotli.';
create table revision_geometry (
  revision_id uuid not null references revision on delete cascade, hash text not null references geometry, primary key (revision_id, hash));

create table job (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner, revision int not null default 1, kind text not null,
  subject text not null, model_id uuid references model on delete set null, input jsonb not null,
  state text not null default 'queued' check (state in ('queued', 'running', 'done', 'failed', 'cancelled')),
  stage text not null default 'waiting', progress real not null default 0, attempts int not null default 0, problem jsonb, result jsonb,
  created_at timestamptz not null default now(), finished_at timestamptz);
comment on table job is 'Every long computation: progress, cancel, and a result kept while its inputs stay the same.';

create table view_state (
  id uuid primary key default gen_random_uuid(), owner_id uuid not null references owner, model_id uuid not null references model on delete cascade,
  revision int not null, kind text not null check (kind in ('last')), document jsonb not null, updated_at timestamptz not null default now(),
  unique (model_id, owner_id, kind));
comment on table view_state is 'View-state documents of core: the last state of a model now; saved views and links later.';
