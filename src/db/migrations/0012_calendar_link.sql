-- Up Migration

-- The private link of the calendar of all deadlines; only its hash is kept. There is one at a time.
create table calendar_link (
  is_only boolean primary key default true check (is_only),
  token_hash bytea not null check (octet_length(token_hash) = 32),
  made_at timestamptz not null default now()
);

-- The summary of a job holds its deadlines from now on: those of jobs that have some are made anew.
insert into summary_due (job_id)
select id from job where coalesce(document -> 'deadlines', '[]') <> '[]'
on conflict (job_id) do nothing;
