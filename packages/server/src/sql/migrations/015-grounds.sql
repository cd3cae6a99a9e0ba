-- The facts a proof rests on, as they were when it was made: when one of them is another, it does not hold any more.
alter table proof add column grounds jsonb;
