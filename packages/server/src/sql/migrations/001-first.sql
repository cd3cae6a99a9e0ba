create table machine (
  id text primary key,
  version integer not null,
  document jsonb not null,
  changed_at timestamptz not null
);

create table entry (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  at timestamptz not null,
  kind text not null,
  summary text not null,
  detail jsonb not null
);
create index entry_by_machine on entry (machine, at desc, id desc);

create table image (
  hash text primary key,
  bytes integer not null,
  header jsonb not null
);

create table build (
  id text primary key,
  machine text not null references machine,
  machine_version integer not null,
  state text not null check (state in ('running', 'done', 'failed', 'cancelled', 'interrupted')),
  started_at timestamptz not null,
  ended_at timestamptz,
  input jsonb not null,
  log text not null default '',
  result jsonb
);
create index build_by_machine on build (machine, started_at desc);

create table flash (
  id text primary key,
  machine text not null references machine,
  image_hash text references image,
  route text not null,
  file_name text not null,
  at timestamptz not null,
  outcome jsonb not null
);
create index flash_by_machine on flash (machine, at desc);

create table board (
  machine text primary key references machine,
  image_hash text references image,
  store text not null,
  names_taken jsonb not null,
  card jsonb
);

create table proof (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  step text not null,
  image_hash text not null references image,
  outcome text not null check (outcome in ('proven', 'failed')),
  evidence jsonb not null,
  at timestamptz not null
);
create index proof_by_machine on proof (machine, at desc);
