-- Names of people who were forgotten, given to nobody else until a day; only their hash is kept.
create table resting_login (
  print varchar(64) primary key,
  until_date date not null
);
