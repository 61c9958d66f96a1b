-- What another rule takes, or what is dealt with no longer, is told once more; whoever counts messages has counted it.
alter table untold_failure add column known boolean not null default false;
