-- What the board stored when its stored settings were tested: what is stored later by hand voids that.
alter table proof add column stored jsonb;
