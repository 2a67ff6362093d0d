-- Up Migration

-- Kits that users brought in or made; those that ship with the program are files. The text is kept as typed,
-- comments and all; the document is what it was validated to.
create table kit (
  id text primary key check (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  text text not null check (length(text) <= 200000),
  document jsonb not null check (coalesce(document ->> 'format', '') = 'gormit-kit' and document ->> 'id' = id),
  revision integer not null default 1 check (revision >= 1),
  updated_at timestamptz not null default now(),
  deleted_at timestamptz
);

create index job_kits on job using gin ((document -> 'kits') jsonb_path_ops) where deleted_at is null;
