import type { Knex } from 'knex';

/** The local profile that owns everything until accounts come. */
export const LOCAL_OWNER = '00000000-0000-4000-8000-000000000001';

const FIRST = `
create table owner (id uuid primary key, name text not null, created_at timestamptz not null default now());
comment on table owner is 'Who rows belong to; one local profile until accounts come.';
insert into owner (id, name) values ('${LOCAL_OWNER}', 'Local profile');

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
`;

const VIEWS = `
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
`;

const LEASES = `
create table blob (id uuid primary key default gen_random_uuid(), touched_at timestamptz not null default now());
comment on table blob is 'Bytes that were or are being received; what nothing refers to is collected by age.';
comment on column blob.touched_at is 'When bytes last arrived.';
create table blob_chunk (blob_id uuid not null references blob on delete cascade, position int not null, bytes bytea not null, primary key (blob_id, position));
alter table blob_chunk alter column bytes set storage external;
comment on table blob_chunk is 'The bytes of a blob in rows of about 1 MB.';

alter table source_file add blob_id uuid, add touched_at timestamptz not null default now();
update source_file set blob_id = gen_random_uuid();
insert into blob (id) select blob_id from source_file;
insert into blob_chunk (blob_id, position, bytes) select f.blob_id, c.position, c.bytes from source_chunk c join source_file f using (hash);
drop table source_chunk;
alter table source_file alter blob_id set not null, add unique (blob_id), add foreign key (blob_id) references blob, drop owner_id;
comment on column source_file.touched_at is 'When it was last uploaded; what no revision uses is collected by age.';

alter table geometry add touched_at timestamptz not null default now(), drop owner_id, drop revision;
comment on column geometry.touched_at is 'When it was last stored; what no revision claims is collected by age.';
create index revision_geometry_by_hash on revision_geometry (hash);

alter table job add lease uuid, add lease_until timestamptz, add interruptions int not null default 0, add changed_at timestamptz not null default now();
comment on column job.lease is 'Of the worker that runs it; whoever does not hold it may not change the job.';
comment on column job.lease_until is 'A worker that does not renew its lease before is taken for dead, and another takes the job up.';
comment on column job.attempts is 'How often it took the kernel down.';
comment on column job.interruptions is 'How often its worker went away.';
create index job_by_state on job (state, created_at desc);

create function tell_job() returns trigger language plpgsql as $$
declare told jsonb := jsonb_build_object(
  'id', new.id, 'kind', new.kind, 'state', new.state, 'subject', new.subject, 'modelId', new.model_id, 'stage', new.stage, 'progress', new.progress,
  'problem', new.problem, 'createdAt', to_char(new.created_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'));
begin
  perform pg_notify('bathyscope_job', told::text);
  return null;
end $$;
create trigger tell_job after insert or update of state, stage, progress, model_id on job for each row execute function tell_job();
comment on function tell_job is 'Every change of a job goes to whoever listens, in this process or another.';

create index model_newest on model (owner_id, created_at desc, id desc) where deleted_at is null;
`;

/** Once landed, a migration is never edited; the next change is the next entry. */
const MIGRATIONS: { name: string; sql: string }[] = [
  { name: '001-first-tables', sql: FIRST },
  { name: '002-views', sql: VIEWS },
  { name: '003-leases', sql: LEASES },
];

export const migrationSource: Knex.MigrationSource<(typeof MIGRATIONS)[number]> = {
  getMigrations: () => Promise.resolve(MIGRATIONS),
  getMigrationName: (m) => m.name,
  getMigration: (m) =>
    Promise.resolve({ up: (knex: Knex) => knex.raw(m.sql), down: () => Promise.reject(new Error('Migrations only go forward.')) }),
};
