-- Of whom nothing is known any more but that they were here; their number, and what was done, stay.
create table forgotten (
  person_id bigint primary key,
  at timestamp(6) with time zone not null
);

-- What was answered long ago is forgotten, too.
create index answered_at on answered (at);
