-- What somebody said of a group: how much it lets one do, where, and in how many hands it may be.
create table group_mark (
  name varchar(400) primary key,
  risk varchar(10),
  scope varchar(400),
  most int,
  set_by varchar(200) not null,
  set_at timestamp(6) with time zone not null
);
