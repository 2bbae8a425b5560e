alter table job add askers uuid[] not null default '{}';
comment on column job.askers is 'Owners who want what it makes: who put the same file on the shelf while it was converted. One of several takes back only the own wish.';
