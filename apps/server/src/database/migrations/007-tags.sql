alter table model add column tags text[] not null default '{}';
comment on column model.tags is 'Words under which it is found on the shelf, as they were typed.';
