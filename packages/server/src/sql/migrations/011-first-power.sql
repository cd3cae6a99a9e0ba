-- What was ticked and read off a meter before and at the first power, by what was asked.
create table first_power (
  machine text references machine on delete cascade,
  asked text not null,
  -- What was expected then: a reading of another expectation counts no more.
  expected text not null,
  said text not null,
  at timestamptz not null,
  primary key (machine, asked)
);
