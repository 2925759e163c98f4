-- A file is told from another by a print of it, as a row is; nobody proves anything with it ------------------
alter table import alter column sha256 rename to print;

-- People who are alike, and of whom somebody said that they are two ------------------------------------------
create table apart (
  person_id bigint not null,
  other_id bigint not null,
  said_by varchar(100) not null,
  primary key (person_id, other_id)
);
create index apart_other on apart (other_id);

-- Whether operators may say something else of an attribute than its sources do -------------------------------
alter table attribute add column hand varchar(20) default 'ALLOWED' not null;
update attribute set hand = 'FORBIDDEN' where not by_hand;
alter table attribute drop column by_hand;
alter table attribute alter column hand rename to by_hand;

-- The standard attributes that are set by hand in another way than usual.
create table standard_attribute (
  name varchar(60) primary key,
  by_hand varchar(20) not null,
  version bigint not null
);

-- What sources do not agree on of a person; who has looked at it --------------------------------------------
create table conflict (
  person_id bigint not null,
  attribute varchar(60) not null,
  print varchar(32) not null,
  settled_by varchar(100),
  primary key (person_id, attribute)
);

-- Whether a change gives an account another login: too many of that are stopped, too -------------------------
alter table change add column renames boolean default false not null;
drop index change_counted;
create index change_counted on change (change_set_id, application, kind, state, renames);
