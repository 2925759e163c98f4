-- Groups within which are others are few, and asked for wherever it matters who is in a group.
alter table app_group add column nests boolean default false not null;
update app_group set nests = body not like '%"inner":[]%';
create index app_group_nests on app_group (nests, application);
