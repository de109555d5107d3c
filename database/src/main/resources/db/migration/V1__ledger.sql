-- The ledger, what acts leave for later, and repeats of acts (docs/ledger-format.md).

-- The ledger: one chained entry per act, its changes, and personal values beside it (docs/ledger-format.md).

create table ledger_head (
  only_one tinyint not null primary key check (only_one = 1),
  position bigint not null,
  hash char(64) character set ascii collate ascii_bin not null,
  instant datetime(6) not null
);
insert into ledger_head values (1, 0, repeat('0', 64), '1970-01-01 00:00:00');

create table ledger_entry (
  position bigint not null primary key,
  instant datetime(6) not null,
  actor varchar(60) character set ascii collate ascii_bin not null,
  act varchar(60) character set ascii collate ascii_bin not null,
  json mediumtext collate utf8mb4_bin not null,
  hash char(64) character set ascii collate ascii_bin not null,
  key by_act (act, position),
  key by_actor (actor, position),
  key by_instant (instant)
);

create table ledger_object (
  object_id binary(16) not null,
  position bigint not null,
  primary key (object_id, position),
  key by_position (position),
  foreign key (position) references ledger_entry (position)
);

create table ledger_change (
  position bigint not null,
  seq int not null,
  kind varchar(20) character set ascii collate ascii_bin not null,
  json mediumtext collate utf8mb4_bin not null,
  primary key (position, seq),
  foreign key (position) references ledger_entry (position)
);

-- text is null once the payload was erased by law
create table ledger_payload (
  position bigint not null,
  place varchar(24) character set ascii collate ascii_bin not null,
  salt char(32) character set ascii collate ascii_bin not null,
  text mediumtext collate utf8mb4_bin null,
  primary key (position, place),
  foreign key (position) references ledger_entry (position)
);

create table repeated_act (
  actor varchar(60) character set ascii collate ascii_bin not null,
  repeat_key varchar(80) character set ascii collate ascii_bin not null,
  position bigint not null,
  result mediumtext collate utf8mb4_bin not null,
  -- a hash of method, address and body (hex SHA-256)
  asked char(64) character set ascii collate ascii_bin null,
  primary key (actor, repeat_key),
  foreign key (position) references ledger_entry (position)
);

-- next_at says when to try (again); done_at and failed_at are the two ends
create table outbox (
  id bigint not null auto_increment primary key,
  position bigint not null,
  kind varchar(20) character set ascii collate ascii_bin not null,
  person_id binary(16) not null,
  subject_id binary(16) null,
  tale varchar(20) character set ascii collate ascii_bin null,
  -- to write to where it is no longer anybody's; emptied when the mail has gone
  address varchar(1000) collate utf8mb4_bin null,
  next_at datetime(6) not null,
  attempts int not null default 0,
  done_at datetime(6) null,
  failed_at datetime(6) null,
  last_error varchar(300) collate utf8mb4_bin null,
  key to_do (done_at, failed_at, next_at),
  foreign key (position) references ledger_entry (position)
);

-- What the clock has to do: at which moment, what, about which fact or request, set by which act.
create table due (
  id bigint not null auto_increment primary key,
  due_at datetime(6) not null,
  kind varchar(20) character set ascii collate ascii_bin not null,
  subject text collate utf8mb4_bin not null,
  position bigint not null,
  attempts int not null default 0,
  -- when it is tried again, if it has failed
  next_at datetime(6) null,
  -- when it was parked: it is not tried any more by itself
  failed_at datetime(6) null,
  last_error varchar(300) collate utf8mb4_bin null,
  key in_order (due_at, id),
  foreign key (position) references ledger_entry (position)
);

create table watermark (
  only_one tinyint not null primary key check (only_one = 1),
  reached datetime(6) not null
);
insert into watermark values (1, '1970-01-01 00:00:00');

create table lease (
  name varchar(20) character set ascii collate ascii_bin not null primary key,
  holder char(36) character set ascii collate ascii_bin not null,
  until_at datetime(6) not null
);
