-- Why a guard was changed, in the words of whoever did.
alter table guard_version add column why text not null default '';
