-- Accounts, links to set a password, sign-ins and sessions.

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
  asked_by binary(16) null,
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
  key by_person (person_id, happened_at),
  key by_time (happened_at, success, person_id)
);

create table sign_in_day (
  on_day date not null primary key,
  sign_ins int not null,
  failures int not null,
  people int not null
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
