-- By which clock somebody lives; that of the estate where it is not said.
alter table person add column zone text;

-- A page of thousands of guards, by name; and the few among them that look ahead.
create index guard_by_name on guard (lower(name)) where not deleted;
create index guard_trends on guard (id) where rule ->> 'kind' = 'trend' and not deleted;
