-- How many keys of people were destroyed: whoever remembers keys looks whether one more was.
create table person_key_end (
  destroyed bigint not null
);
insert into person_key_end values (0);
