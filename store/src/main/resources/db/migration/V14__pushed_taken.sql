-- The number up to which deliveries were made of what was pushed, whatever became of them.
alter table feed add column taken bigint default 0 not null;
update feed set taken = (select coalesce(max(number), 0) from pushed where pushed.source = feed.source);
