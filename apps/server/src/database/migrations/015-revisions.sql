alter table revision add note text not null default '', add deleted_at timestamptz;
comment on column revision.note is 'What whoever made it wants to say about it.';
comment on column revision.deleted_at is 'Set when removed; the row stays for those who have it open, and so that removing can be undone.';
comment on column model.revision is 'Number of the newest revision that is ready and not removed.';
create index revision_in_bin on revision (deleted_at) where deleted_at is not null;
