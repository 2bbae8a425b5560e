alter table owner add token_hash bytea unique, add seen_at timestamptz not null default now();
comment on table owner is 'Who rows belong to: a profile for each browser, and the installation itself, which owns what no profile made.';
comment on column owner.token_hash is 'SHA-256 of what the browser''s cookie holds; null for the installation, and for a profile that waits for its browser.';
comment on column owner.seen_at is 'When its browser was last there.';
update owner set name = 'Installation';

-- What was set while there was one profile waits for the first browser that comes.
with first as (
    insert into owner (id, name)
    select gen_random_uuid(), '' where exists (select from user_setting) or exists (select from view_state) returning id),
  settings as (update user_setting set owner_id = (select id from first))
update view_state set owner_id = (select id from first);

-- Saved views, names, sets and sections are the model's, whoever made them.
drop index saved_view_slot;
create unique index saved_view_slot on saved_view (model_id, slot) where slot is not null and deleted_at is null;
alter table model_preference drop constraint model_preference_pkey, add primary key (model_id), drop revision, add version int not null default 1;
comment on table model_preference is 'What was set about one model: its up axis, where Home leads, names, kept sets and sections.';
comment on column model_preference.version is 'Counts the changes: who changes an older one than there is, is told so and overwrites nothing.';
comment on column model_preference.owner_id is 'Who changed it last.';
alter table user_setting drop revision;
alter table job drop revision;

drop index model_newest;
create index model_newest on model (created_at desc, id desc) where deleted_at is null;
