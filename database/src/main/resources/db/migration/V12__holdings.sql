-- Saved queries, downloaded reports and dismissed hints.

-- A query that somebody saved: what it asks stands in spec as canonical JSON.
create table query (
  query_id binary(16) not null primary key,
  owner_id binary(16) not null,
  name varchar(120) collate utf8mb4_bin not null,
  why varchar(500) collate utf8mb4_bin not null,
  spec text collate utf8mb4_bin not null,
  shared boolean not null,
  every varchar(10) character set ascii collate ascii_bin not null,
  next_on date null,
  version int not null,
  changed_at datetime(6) not null,
  key by_owner (owner_id),
  key by_next (next_on),
  foreign key (owner_id) references thing (id),
  check (every in ('never', 'week', 'month', 'quarter'))
);

-- An answer that can be checked later: of which moment it is, where the ledger stood, and the hash of
-- its lines. The lines themselves are not kept; they follow from the facts.
create table report_made (
  report_no bigint not null auto_increment primary key,
  made_by binary(16) not null,
  made_at datetime(6) not null,
  query_name varchar(120) collate utf8mb4_bin not null,
  spec text collate utf8mb4_bin not null,
  format varchar(10) character set ascii collate ascii_bin not null,
  as_of datetime(6) not null,
  position bigint not null,
  entry_hash char(64) character set ascii collate ascii_bin not null,
  -- null until all of it has been given out
  line_count bigint null,
  digest char(64) character set ascii collate ascii_bin null,
  file_digest char(64) character set ascii collate ascii_bin null,
  key by_maker (made_by, report_no),
  key by_file (file_digest),
  foreign key (made_by) references thing (id)
);

-- A hint that somebody set aside, and why; it comes back when its numbers grow.
create table hint_aside (
  hint_key char(64) character set ascii collate ascii_bin not null primary key,
  set_by binary(16) not null,
  set_at datetime(6) not null,
  reason varchar(500) collate utf8mb4_bin not null,
  number int not null,
  foreign key (set_by) references thing (id)
);
