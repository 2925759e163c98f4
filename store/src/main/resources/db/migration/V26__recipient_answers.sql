-- What whoever gets it says to that.
alter table departure add column accepted varchar(300);
alter table departure add column declined varchar(2000);
