alter table revision add converter text;
comment on column revision.converter is 'Version of what converted it, or tried to anew; where there is a newer one it is converted again.';
create index revision_by_converter on revision (converter) where state = 'ready' and deleted_at is null;
