-- Up Migration

-- Each photograph as small as it is printed: a report of sixty is made in seconds, and without sixty large ones in
-- memory. Those that were kept before are made small when they are first printed.
create table photo_print (
  photo_id uuid primary key references photo (id) on delete restrict,
  bytes bytea not null check (octet_length(bytes) between 1 and 1048576)
);

create trigger photo_print_append_only before update or delete on photo_print
  for each row execute function refuse_change();
