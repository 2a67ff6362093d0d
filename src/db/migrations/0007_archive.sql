-- Up Migration

-- A job that is done with leaves the list, and comes back to it; nothing else of it changes.
alter table job add column archived_at timestamptz;

-- What a list says of a job is made anew where the program's words have changed since it was saved.
insert into summary_due (job_id) select id from job where deleted_at is null on conflict do nothing;
