-- Machines that are being described and are no machine file yet.
create table description (
  id text primary key,
  version integer not null,
  document jsonb not null,
  changed_at timestamptz not null
);

-- Parts that were described here, beside those of the installed catalogue.
create table own_part (
  id text primary key,
  document jsonb not null,
  at timestamptz not null
);

-- Where a machine is when it is not on the shelf; and whether the demo laid it.
alter table machine add column put_away text check (put_away in ('archived', 'deleted'));
alter table machine add column of_demo boolean not null default false;
