-- The UTC days on which a failed message may be open, so that nobody looks through all days for those that are.
create table message_open_day (day date primary key);

insert into message_open_day (day)
select distinct (at at time zone 'UTC')::date from failed_message where open;
