-- The run a proof rests on: seed, stored settings at power-on, everything that was done, and what the image said to it.
alter table proof add column recording jsonb;
