-- Up Migration

-- What a job was made from (a hash of the request that made it), so that the same request sent again finds its job.
alter table job add column made_from bytea check (octet_length(made_from) = 32);

-- What a list shows and searches, kept beside the document: unpacking every document for it would take seconds.
alter table job
  add column place text generated always as (coalesce(document #>> '{job,place}', '')) stored,
  add column sought text generated always as (
    name || ' ' || coalesce(document #>> '{job,place}', '') || ' '
      || coalesce(summary ->> 'supply', '') || ' ' || coalesce(summary ->> 'next', '')
  ) stored;

create index job_by_name on job (lower(name), id) where deleted_at is null;
drop index job_recent;
create index job_recent on job (updated_at desc, id) where deleted_at is null;

-- Saves of one person that come close together are one revision: the last of them, with the time of the first. Which
-- parts it changed stands beside it, so that the log need not compare whole documents.
alter table job_revision
  add column began_at timestamptz,
  add column person text not null default '' check (length(person) <= 60),
  add column parts text[] not null default '{}';

drop trigger job_revision_append_only on job_revision;

update job_revision kept set began_at = saved_at, parts = changed.parts
from (
  select job_id, revision, array_remove(array[
    case when document -> 'site' is distinct from lag(document -> 'site') over w then 'site' end,
    case when document -> 'kits' is distinct from lag(document -> 'kits') over w then 'kits' end,
    case when document -> 'links' is distinct from lag(document -> 'links') over w then 'links' end,
    case when document -> 'tests' is distinct from lag(document -> 'tests') over w then 'tests' end,
    case when document -> 'run' is distinct from lag(document -> 'run') over w then 'run' end,
    case when document -> 'limit' is distinct from lag(document -> 'limit') over w then 'limit' end,
    case when document -> 'divert' is distinct from lag(document -> 'divert') over w then 'divert' end,
    case when document -> 'network' is distinct from lag(document -> 'network') over w then 'network' end
  ], null) as parts
  from job_revision window w as (partition by job_id order by revision)
) changed where changed.job_id = kept.job_id and changed.revision = kept.revision;

alter table job_revision alter column began_at set default now();
alter table job_revision alter column began_at set not null;

-- A revision may grow into a later one while it is fresh; it never goes, and never goes back.
create function guard_revision() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' then
    raise exception 'job_revision keeps what was acknowledged' using errcode = 'restrict_violation';
  end if;
  if new.job_id <> old.job_id or new.revision <= old.revision
    or old.began_at < now() - interval '2 minutes' or old.revision = 1 then
    raise exception 'job_revision % of % is not to be changed any more', old.revision, old.job_id
      using errcode = 'restrict_violation';
  end if;
  return new;
end
$$;

create trigger job_revision_guarded before update or delete on job_revision
  for each row execute function guard_revision();

-- What was sent, beside what is kept: a picture is made anew without what it says of its place.
alter table photo disable trigger photo_append_only;
alter table photo add column sent_sha256 bytea check (octet_length(sent_sha256) = 32);
update photo set sent_sha256 = sha256;
alter table photo alter column sent_sha256 set not null;
alter table photo enable trigger photo_append_only;

create index photo_received on photo (received_at);

-- Every text that a kit of one's own ever had.
create table kit_revision (
  kit_id text not null references kit (id) on delete restrict,
  revision integer not null check (revision >= 1),
  text text not null,
  saved_at timestamptz not null default now(),
  primary key (kit_id, revision)
);

insert into kit_revision (kit_id, revision, text, saved_at) select id, revision, text, updated_at from kit;

create trigger kit_revision_append_only before update or delete on kit_revision
  for each row execute function refuse_change();
