-- Up Migration

-- Each hand over of a job as it was: its report word for word, the plan that it was made of, and who signed. A change
-- afterwards makes a new one beside it.
create table handover (
  id uuid primary key,
  job_id uuid not null references job (id) on delete restrict,
  number int not null check (number >= 1),
  made_at timestamptz not null default now(),
  person text not null check (length(btrim(person)) between 1 and 60),
  state text not null,
  revision int not null,
  document jsonb not null,
  report text not null,
  sha256 bytea not null check (sha256 = sha256(convert_to(report, 'UTF8'))),
  unique (job_id, number)
);

create table handover_signature (
  handover_id uuid not null references handover (id) on delete restrict,
  role text not null check (role in ('technician', 'owner')),
  name text not null check (length(btrim(name)) between 1 and 60),
  strokes jsonb not null,
  primary key (handover_id, role)
);

create trigger handover_append_only before update or delete on handover
  for each row execute function refuse_change();
create trigger handover_signature_append_only before update or delete on handover_signature
  for each row execute function refuse_change();
