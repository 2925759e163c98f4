-- Work of which only one goes on at a time, whichever process does it.
create table turn (
  name varchar(200) primary key,
  holder varchar(50) not null,
  what varchar(200) not null,
  until timestamp(6) with time zone not null
);
