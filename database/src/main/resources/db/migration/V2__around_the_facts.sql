-- What is no fact: accounts, links, sign-ins, sessions, staged files, errands, repeats.

create table setting (
  name varchar(40) character set ascii collate ascii_bin not null primary key,
  value text collate utf8mb4_bin not null
);

create table account (
  person_id binary(16) not null primary key,
  password varchar(255) character set ascii collate ascii_bin not null,
  changed_at datetime(6) not null,
  foreign key (person_id) references thing (id)
);

-- looked up by the SHA-256 of the token; the token itself is nowhere
create table one_time_link (
  token_hash char(64) character set ascii collate ascii_bin not null primary key,
  purpose varchar(20) character set ascii collate ascii_bin not null,
  person_id binary(16) null,
  made_at datetime(6) not null,
  until_at datetime(6) not null,
  used_at datetime(6) null,
  key by_person (person_id),
  foreign key (person_id) references thing (id)
);

-- account is the SHA-256 of the folded name that was typed
create table signin_event (
  id bigint not null auto_increment primary key,
  happened_at datetime(6) not null,
  account char(64) character set ascii collate ascii_bin not null,
  person_id binary(16) null,
  address varchar(45) character set ascii collate ascii_bin not null,
  success boolean not null,
  key by_account (account, address, happened_at),
  key by_address (address, happened_at),
  key by_person (person_id, happened_at)
);

create table delivery (
  id binary(16) not null primary key,
  source_id binary(16) not null,
  source_name varchar(80) collate utf8mb4_bin not null,
  file_name varchar(200) collate utf8mb4_bin not null,
  file_hash char(64) character set ascii collate ascii_bin not null,
  content longblob not null,
  columns mediumtext collate utf8mb4_bin not null,
  scope varchar(10) character set ascii collate ascii_bin not null,
  made_by binary(16) not null,
  made_at datetime(6) not null,
  position bigint null,
  key by_age (made_at),
  foreign key (made_by) references thing (id)
);

-- next_at says when to try (again); done_at and failed_at are the two ends
create table outbox (
  id bigint not null auto_increment primary key,
  position bigint not null,
  kind varchar(20) character set ascii collate ascii_bin not null,
  person_id binary(16) not null,
  next_at datetime(6) not null,
  attempts int not null default 0,
  done_at datetime(6) null,
  failed_at datetime(6) null,
  last_error varchar(300) collate utf8mb4_bin null,
  key to_do (done_at, failed_at, next_at),
  foreign key (position) references ledger_entry (position)
);

create table repeated_act (
  actor varchar(60) character set ascii collate ascii_bin not null,
  repeat_key varchar(80) character set ascii collate ascii_bin not null,
  position bigint not null,
  result mediumtext collate utf8mb4_bin not null,
  primary key (actor, repeat_key),
  foreign key (position) references ledger_entry (position)
);

create table SPRING_SESSION (
  PRIMARY_ID char(36) character set ascii collate ascii_bin not null primary key,
  SESSION_ID char(36) character set ascii collate ascii_bin not null,
  CREATION_TIME bigint not null,
  LAST_ACCESS_TIME bigint not null,
  MAX_INACTIVE_INTERVAL int not null,
  EXPIRY_TIME bigint not null,
  PRINCIPAL_NAME varchar(200) collate utf8mb4_bin null,
  unique key by_session (SESSION_ID),
  key by_expiry (EXPIRY_TIME),
  key by_principal (PRINCIPAL_NAME)
);

create table SPRING_SESSION_ATTRIBUTES (
  SESSION_PRIMARY_ID char(36) character set ascii collate ascii_bin not null,
  ATTRIBUTE_NAME varchar(200) character set ascii collate ascii_bin not null,
  ATTRIBUTE_BYTES longblob not null,
  primary key (SESSION_PRIMARY_ID, ATTRIBUTE_NAME),
  foreign key (SESSION_PRIMARY_ID) references SPRING_SESSION (PRIMARY_ID) on delete cascade
);
