-- Up Migration

-- A network's name and passphrase that a technician chose to keep until hand over, encrypted with a key that is not in
-- this database. It goes with its job, and when the job is archived.
create table passphrase (
  job_id uuid primary key references job (id) on delete cascade,
  sealed bytea not null check (octet_length(sealed) between 29 and 1000),
  kept_at timestamptz not null default now()
);
