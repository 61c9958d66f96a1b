-- By which clock somebody lives; that of the estate where it is not said.
alter table person add column zone text;
