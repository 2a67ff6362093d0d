-- Up Migration

-- Each line of a job's log by the hash of the line before it and its own text: a change of any line is found. What came
-- before this table is chained here, in the order in which it arrived.
create table visit_chain (
  job_id uuid not null references job (id) on delete restrict,
  position bigint not null check (position >= 1),
  entry_id uuid not null unique references visit_entry (id) on delete restrict,
  hash bytea not null check (octet_length(hash) = 32),
  primary key (job_id, position)
);

create trigger visit_chain_append_only before update or delete on visit_chain
  for each row execute function refuse_change();

do $$
declare
  line record;
  last_job uuid;
  place bigint;
  head bytea;
begin
  for line in select id, job_id, body::text as text from visit_entry order by job_id, sequence loop
    if last_job is distinct from line.job_id then
      last_job := line.job_id;
      place := 0;
      head := decode(repeat('0', 64), 'hex');
    end if;
    place := place + 1;
    head := sha256(convert_to(encode(head, 'hex') || ' ' || line.text, 'UTF8'));
    insert into visit_chain (job_id, position, entry_id, hash) values (line.job_id, place, line.id, head);
  end loop;
end;
$$;
