-- A board that was replaced like for like is another one: its flash, its card and what is known of it are its own.
alter table board add column board_copy integer not null default 1;
alter table board drop constraint board_pkey;
alter table board add primary key (machine, board_id, board_revision, board_copy);
alter table kept add column board_copy integer;

-- What was ticked or read at the first power counts for the machine as it was then.
alter table first_power add column grounds jsonb;
