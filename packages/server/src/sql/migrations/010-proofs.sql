-- What a test found instead of what it should, by which its causes are told.
alter table proof add column finding text;
