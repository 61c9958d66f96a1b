-- The teams of what a case explains are told that theirs is held up.
alter table delivery
    drop constraint delivery_about_check,
    add constraint delivery_about_check check (about in ('OPENED', 'EXPLAINS', 'OVER', 'WINDOW', 'VENDOR'));
