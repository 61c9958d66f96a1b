-- Which slices of all components what was taken in is about, a bit each: nodes read only what falls to them.
alter table arrival add column slices bigint not null default -1;
