-- A photo that was removed is kept for a moment, to be put back; then it goes for good.
alter table photo add column removed_at timestamptz;
