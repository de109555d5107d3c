-- Access requests and departures.

-- Requests: where each stands, and the decisions that stand.

create table access_request (
  id binary(16) not null primary key,
  number int not null,
  asker_id binary(16) not null,
  entitlement_id binary(16) not null,
  until_day date null,
  reason varchar(1000) collate utf8mb4_bin not null,
  asked_at datetime(6) not null,
  stage varchar(10) character set ascii collate ascii_bin not null,
  step varchar(10) character set ascii collate ascii_bin null,
  stage_at datetime(6) not null,
  lapses_at datetime(6) null,
  stage_by binary(16) null,
  grant_id binary(16) null,
  unique key by_number (number),
  key by_asker (asker_id, asked_at),
  key by_stage (stage, lapses_at),
  key by_grant (grant_id),
  foreign key (asker_id) references thing (id),
  foreign key (entitlement_id) references thing (id),
  check (stage in ('waiting', 'given', 'refused', 'withdrawn', 'lapsed', 'overtaken')),
  check ((stage = 'waiting') = (step is not null)),
  check ((stage = 'waiting') = (lapses_at is not null)),
  check ((stage = 'given') = (grant_id is not null))
);

create table request_answer (
  request_id binary(16) not null,
  seq int not null,
  step varchar(10) character set ascii collate ascii_bin not null,
  decider_id binary(16) not null,
  decides_as varchar(20) character set ascii collate ascii_bin not null,
  stepped_in boolean not null,
  yes boolean not null,
  answered_at datetime(6) not null,
  until_day date null,
  note varchar(1000) collate utf8mb4_bin not null,
  primary key (request_id, seq),
  foreign key (request_id) references access_request (id),
  foreign key (decider_id) references thing (id)
);

-- What each departure came to; ids only.
create table departure (
  person_id binary(16) not null,
  position bigint not null,
  slip mediumtext collate utf8mb4_bin not null,
  primary key (person_id, position),
  foreign key (person_id) references thing (id),
  foreign key (position) references ledger_entry (position)
);
