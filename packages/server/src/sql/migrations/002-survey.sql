alter table image alter column header drop not null;

create table job (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  state text not null check (state in ('open', 'paused', 'done', 'abandoned')),
  version integer not null,
  document jsonb not null,
  opened_at timestamptz not null,
  ended_at timestamptz
);
create unique index one_job_at_a_time on job (machine) where state in ('open', 'paused');

create table kept (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  kind text not null check (kind in ('image', 'bootloader', 'options', 'store', 'dump')),
  name text not null,
  board_id text not null,
  board_revision text not null,
  hash text not null,
  bytes integer not null,
  format text not null,
  source text not null check (source in ('file', 'board', 'link')),
  verdict text not null check (verdict in ('fits', 'doubtful', 'empty')),
  evidence jsonb not null,
  at timestamptz not null,
  unique (machine, kind, hash, board_id, board_revision)
);

create table waiver (
  machine text not null references machine,
  check_id text not null,
  because text not null,
  at timestamptz not null,
  primary key (machine, check_id)
);

create table photo (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  board_id text not null,
  board_revision text not null,
  hash text not null,
  type text not null,
  title text not null,
  width integer not null,
  height integer not null,
  pins jsonb not null,
  at timestamptz not null
);
create index photo_by_machine on photo (machine, at);

create table own_board (
  id text not null,
  revision text not null,
  document jsonb not null,
  at timestamptz not null,
  primary key (id, revision)
);
