-- What stands in a board's flash beside the image, where it is not as it was sold: bootloader, lock words, where the image begins.
alter table board add column boot jsonb;
-- Names that were written on a real card: the bench cannot see whether that board took them.
alter table board add column names_written jsonb not null default '[]';
-- A flash says which board it was for, and what was done: the bootloader called or installed, or an image written.
alter table flash add column does text not null default 'write' check (does in ('try', 'write', 'bootloader'));
alter table flash add column board text;
alter table flash add column from_start boolean not null default false;
