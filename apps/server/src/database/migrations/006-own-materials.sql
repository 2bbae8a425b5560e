create table own_material (
  id uuid primary key, owner_id uuid not null references owner, name text not null, family text not null,
  density double precision not null check (density > 0), spread double precision not null check (spread >= 0),
  source text not null default '', updated_at timestamptz not null default now());
create unique index own_material_name on own_material (lower(name));
comment on table own_material is 'Materials that somebody added to the library: those of the installation, whoever added them.';
comment on column own_material.density is 'kg/m³';
comment on column own_material.spread is 'kg/m³: how far a delivered piece may be off to either side.';
comment on column own_material.owner_id is 'Who changed it last.';
