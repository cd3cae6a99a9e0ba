-- Boards that are being described and are no board file yet; the photo lies with the photos, under its hash.
create table begun_board (
  id text primary key,
  version integer not null,
  document jsonb not null,
  changed_at timestamptz not null
);

-- Chips that were described here, beside those of the installed catalogue.
create table own_chip (
  id text primary key,
  document jsonb not null,
  at timestamptz not null
);
