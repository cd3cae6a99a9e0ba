-- Screws of the plate as hands at the bench have left them: a machine that was trammed stays so.
create table turned_screws (
  machine text primary key references machine,
  screws jsonb not null
);
