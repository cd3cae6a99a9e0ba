-- What a person says of a build, the linker's map of its image, and when its image was cleared away.
alter table build add column label text not null default '';
alter table build add column pinned boolean not null default false;
alter table build add column map text;
alter table build add column cleared_at timestamptz;

-- What each feature takes in the image of a machine, measured by building; one run for each machine, the newest.
create table costs (
  machine text primary key references machine on delete cascade,
  machine_version integer not null,
  state text not null check (state in ('running', 'done', 'failed', 'cancelled')),
  started_at timestamptz not null,
  ended_at timestamptz,
  -- The costs of a run that is done, or why one failed.
  result jsonb
);
