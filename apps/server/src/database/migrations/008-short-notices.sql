create or replace function tell_job() returns trigger language plpgsql as $$
declare
  -- A notice takes 8,000 bytes; a character may need six. Whoever wants all of it asks for the job.
  problem jsonb := case when length(new.problem->>'detail') > 900 then jsonb_set(new.problem, '{detail}', to_jsonb(left(new.problem->>'detail', 899) || '…')) else new.problem end;
  told jsonb := jsonb_build_object(
  'id', new.id, 'kind', new.kind, 'state', new.state, 'subject', left(new.subject, 250), 'modelId', new.model_id, 'stage', left(new.stage, 50), 'progress', new.progress,
  'problem', problem, 'createdAt', to_char(new.created_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'));
begin
  perform pg_notify('bathyscope_job', told::text);
  return null;
end $$;
