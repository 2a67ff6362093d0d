-- Up Migration

-- What happened on a visit, line by line. The id comes from the browser that recorded it, so that a line sent again
-- after a lost answer is one line.
create table run_entry (
  id uuid primary key,
  job_id uuid not null references job (id) on delete restrict,
  sequence bigint generated always as identity,
  at timestamptz not null,
  person text not null check (length(btrim(person)) between 1 and 60),
  kind text not null check (kind in ('start', 'result', 'skip', 'reopen', 'note', 'photo', 'correction')),
  step text,
  body jsonb not null check (coalesce(body ->> 'kind', '') = kind),
  received_at timestamptz not null default now()
);

create index run_entry_of_job on run_entry (job_id, sequence);

create trigger run_entry_append_only before update or delete on run_entry
  for each row execute function refuse_change();

create table photo (
  id uuid primary key,
  job_id uuid not null references job (id) on delete restrict,
  type text not null check (type in ('image/jpeg', 'image/png', 'image/webp')),
  bytes bytea not null check (octet_length(bytes) between 1 and 12582912),
  sha256 bytea not null check (octet_length(sha256) = 32),
  received_at timestamptz not null default now()
);

create index photo_of_job on photo (job_id);

create trigger photo_append_only before update or delete on photo
  for each row execute function refuse_change();
