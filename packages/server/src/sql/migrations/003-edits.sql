create table machine_edit (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  label text not null,
  before jsonb not null,
  after jsonb not null,
  version integer not null,
  at timestamptz not null,
  undone boolean not null default false
);
create index machine_edit_of on machine_edit (machine, id);
