-- What is to be known of a set before it is let through, and stops nothing: what applications will
-- refuse of it, and why it waits though its like goes by itself.
alter table change_set add column remarks varchar default '[]' not null;
