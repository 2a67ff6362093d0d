-- Up Migration

-- The private link by which an owner reads their page; only its hash is kept, so that nobody reads links off this
-- table.
create table owner_link (
  token_hash bytea primary key check (octet_length(token_hash) = 32),
  job_id uuid not null unique references job (id) on delete cascade,
  made_at timestamptz not null default now()
);
