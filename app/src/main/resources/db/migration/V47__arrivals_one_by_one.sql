-- What arrived stands there one by one, no more column by column. What waited has been told of or is in the store; whoever starts reads it there.
delete from arrival;
alter table arrival rename column rows to told;
