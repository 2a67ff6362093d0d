-- Up Migration

-- A job: its validated document with a revision for compare-and-set, and a summary for lists.
create table job (
  id uuid primary key default gen_random_uuid(),
  name text not null check (length(btrim(name)) between 1 and 80),
  -- A missing field compares as unknown, which a check lets pass; hence coalesce.
  document jsonb not null check (coalesce(document ->> 'format', '') = 'gormit-job'),
  summary jsonb not null check (summary ?& array['supply', 'state', 'findings', 'next']),
  revision integer not null default 1 check (revision >= 1),
  -- Which demo job this row was loaded from, so that a second start does not load it again.
  demo_key text unique,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  deleted_at timestamptz
);

create index job_recent on job (updated_at desc) where deleted_at is null;

-- Every revision that was ever acknowledged; nothing typed is lost, and a conflict can show both versions.
create table job_revision (
  job_id uuid not null references job (id) on delete restrict,
  revision integer not null check (revision >= 1),
  document jsonb not null,
  saved_at timestamptz not null default now(),
  primary key (job_id, revision)
);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is append-only', tg_table_name using errcode = 'restrict_violation';
end
$$;

create trigger job_revision_append_only before update or delete on job_revision
  for each row execute function refuse_change();
