-- What applications will refuse of a set, as far as can be told before it is sent.
alter table change_set add column foretold varchar default '[]' not null;
