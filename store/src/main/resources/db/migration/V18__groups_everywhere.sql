-- A group across all applications is looked at by its name.
create index account_group_everywhere on account_group (name, account_id, application);
