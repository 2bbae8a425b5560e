create function tell_saved_view() returns trigger language plpgsql as $$
begin
  perform pg_notify('bathyscope_record', json_build_object('model', new.model_id, 'record', new.id, 'kind', 'saved-view', 'rev', 0)::text);
  return null;
end $$;
create trigger tell_saved_view after insert or update on saved_view for each row execute function tell_saved_view();
comment on function tell_saved_view is 'Every change of a saved view goes to whoever listens, as those of records do; the views are asked for.';
