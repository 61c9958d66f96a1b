-- When an errand is wanted again, said while it was being run.
alter table scheduled_tasks add wanted_at timestamptz;
