create table clash_check (
  id uuid primary key default gen_random_uuid(), model_id uuid not null references model on delete cascade, revision int not null,
  about text not null, input_key text not null, among jsonb, wanted jsonb, job_id uuid,
  state text not null default 'running' check (state in ('running', 'done')), pairs int, done int not null default 0,
  found jsonb not null default '[]', created_at timestamptz not null default now(), unique (model_id, revision, input_key));
comment on table clash_check is 'What of a revision clashes with what: kept for as long as what it was asked for stays the same.';
comment on column clash_check.about is 'What was checked, in the words of who asked.';
comment on column clash_check.input_key is 'Hash of the components and of the kernel''s version: the same question has the same answer.';
comment on column clash_check.among is 'Paths of the components that are checked; null for all.';
comment on column clash_check.wanted is 'Of them those that are checked with all others; null for each with each.';
comment on column clash_check.found is 'Pairs that touch or clash, or of which nothing is known; grows while the job runs.';
