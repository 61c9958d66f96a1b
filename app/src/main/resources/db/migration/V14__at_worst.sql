-- What was said of an alert when it was at its worst, since what is said at its end tells of the end.
alter table case_alert add column worst_words text;
update case_alert set worst_words = words;
alter table case_alert alter column worst_words set not null;
