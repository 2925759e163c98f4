-- Names of people who were forgotten, given to nobody else until a day; only their hash is kept, and
-- whose they were: whoever comes back gets them again.
create table resting_login (
  print varchar(64) primary key,
  person_id bigint not null,
  until_date date not null
);
