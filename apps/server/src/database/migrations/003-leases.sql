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
