-- What lies on the bench is kept for each board: a new board does not hold what the old one held.
alter table board add column board_id text;
alter table board add column board_revision text;
update board set
  board_id = (select document->'board'->>'id' from machine where machine.id = board.machine),
  board_revision = (select document->'board'->>'revision' from machine where machine.id = board.machine);
alter table board alter column board_id set not null;
alter table board alter column board_revision set not null;
alter table board drop constraint board_pkey;
alter table board add primary key (machine, board_id, board_revision);

-- A waiver that ended with a job comes back with it.
alter table waiver drop constraint waiver_pkey;
alter table waiver add column ended_with bigint references job;
create unique index one_waiver_a_check on waiver (machine, check_id) where ended_with is null;

-- What a finished job left to be measured stays due.
create table due (
  machine text not null references machine,
  id text not null,
  title text not null,
  because text not null,
  since timestamptz not null,
  job bigint not null references job,
  primary key (machine, id)
);
