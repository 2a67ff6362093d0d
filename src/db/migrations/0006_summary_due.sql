-- Up Migration

-- Jobs whose summary knows less than their log: it is made anew when a list is next asked for. A recording stays as
-- quick as it was; the mark tells whether more was recorded while the summary was made.
create table summary_due (
  job_id uuid primary key references job (id) on delete cascade,
  mark bigint generated always as identity
);

insert into summary_due (job_id) select distinct job_id from visit_entry;
