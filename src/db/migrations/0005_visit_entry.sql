-- Up Migration

-- The lines of a visit's log, by the word that everything else has for them.
alter table run_entry rename to visit_entry;
alter index run_entry_pkey rename to visit_entry_pkey;
alter index run_entry_of_job rename to visit_entry_of_job;
alter trigger run_entry_append_only on visit_entry rename to visit_entry_append_only;
alter table visit_entry rename constraint run_entry_job_id_fkey to visit_entry_job_id_fkey;
alter table visit_entry rename constraint run_entry_person_check to visit_entry_person_check;
alter table visit_entry rename constraint run_entry_kind_check to visit_entry_kind_check;
alter table visit_entry rename constraint run_entry_check to visit_entry_check;
