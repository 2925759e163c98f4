-- The day on which each gate that is shut was found so first -------------------------------------
alter table departure_account add column shut_since varchar not null default '{}';
