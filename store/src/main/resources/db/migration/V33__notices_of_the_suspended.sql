-- Whether what is written to somebody goes on while they are kept out, to their private address.
alter table suspension add column notices boolean not null default false;
