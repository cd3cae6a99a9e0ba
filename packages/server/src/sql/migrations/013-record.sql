-- Something measured at a machine, or said to have been done: what came of it, and the facts it was measured with.
create table calibration (
  id bigint generated always as identity primary key,
  machine text not null references machine,
  calibration text not null,
  at timestamptz not null,
  outcome text not null check (outcome in ('found', 'poor', 'done')),
  words text not null,
  evidence jsonb not null,
  figures jsonb not null,
  measured_with jsonb not null,
  -- Where its values went: the machine file, the running board, its store.
  went_to jsonb not null,
  map jsonb
);
create index calibration_by_machine on calibration (machine, at desc, id desc);

-- When a machine's firmware is to be changed, if somebody has said so.
create table policy (
  machine text primary key references machine,
  policy text not null check (policy in ('part', 'all', 'stay'))
);

create index entry_by_kind on entry (machine, kind, at desc, id desc);
