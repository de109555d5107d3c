-- Access requests and departures.

-- Requests: where each stands, and the decisions that stand.

create table access_request (
  id binary(16) not null primary key,
  number int not null,
  asker_id binary(16) not null,
  person_id binary(16) not null,
  entitlement_id binary(16) not null,
  -- The steps that it needs, as they were when it was asked; the JSON of the ledger.
  route varchar(2000) character set utf8mb4 collate utf8mb4_bin not null,
  until_day date null,
  reason varchar(1000) collate utf8mb4_bin not null,
  -- What its form was answered with, in JSON; it can be erased, like the reason.
  form mediumtext character set utf8mb4 collate utf8mb4_bin not null,
  asked_at datetime(6) not null,
  stage varchar(10) character set ascii collate ascii_bin not null,
  -- Which step of the route waits, from 0.
  step int null,
  stage_at datetime(6) not null,
  lapses_at datetime(6) null,
  stage_by binary(16) null,
  back_at datetime(6) null,
  goes_on_at datetime(6) null,
  passed_to binary(16) null,
  passed_by binary(16) null,
  grant_id binary(16) null,
  messages int not null default 0,
  unique key by_number (number),
  key by_asker (asker_id, asked_at),
  key by_person (person_id, asked_at),
  key by_stage (stage, lapses_at),
  key by_grant (grant_id),
  key by_passed (passed_to),
  foreign key (asker_id) references thing (id),
  foreign key (person_id) references thing (id),
  foreign key (entitlement_id) references thing (id),
  check (stage in ('waiting', 'asked_back', 'given', 'refused', 'withdrawn', 'lapsed', 'overtaken')),
  check ((stage in ('waiting', 'asked_back')) = (step is not null)),
  check ((stage in ('waiting', 'asked_back')) = (lapses_at is not null)),
  check ((stage = 'asked_back') = (goes_on_at is not null and back_at is not null)),
  check ((stage = 'given') = (grant_id is not null)),
  check ((passed_to is null) = (passed_by is null))
);

create table request_answer (
  request_id binary(16) not null,
  seq int not null,
  step int not null,
  decider_id binary(16) not null,
  decides_as varchar(20) character set ascii collate ascii_bin not null,
  stepped_in boolean not null,
  -- As whose deputy; null for themselves.
  behalf_id binary(16) null,
  yes boolean not null,
  answered_at datetime(6) not null,
  until_day date null,
  note varchar(1000) collate utf8mb4_bin not null,
  -- Where the request stood before, so that the decision can be taken back.
  was_from datetime(6) not null,
  was_lapses_at datetime(6) not null,
  was_asked_by binary(16) null,
  was_back_at datetime(6) null,
  was_goes_on_at datetime(6) null,
  was_passed_to binary(16) null,
  was_passed_by binary(16) null,
  primary key (request_id, seq),
  foreign key (request_id) references access_request (id),
  foreign key (decider_id) references thing (id),
  foreign key (behalf_id) references thing (id)
);

-- Who decides on requests: for an entitlement, an application, a sensitivity, or all.
create table route (
  scope varchar(60) character set ascii collate ascii_bin not null,
  steps mediumtext character set utf8mb4 collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (scope, validity without overlaps)
);

-- What whoever asks is asked, for the same scopes; the JSON of the ledger.
create table request_form (
  scope varchar(60) character set ascii collate ascii_bin not null,
  form mediumtext character set utf8mb4 collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (scope, validity without overlaps)
);

-- Who decides for somebody who is away, and what.
create table deputy (
  person_id binary(16) not null,
  deputy_id binary(16) not null,
  duties varchar(100) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (person_id, deputy_id, validity without overlaps),
  foreign key (person_id) references thing (id),
  foreign key (deputy_id) references thing (id)
);

-- What was written about a request. The ledger says that, by whom and when; the words stand here, where
-- they can be erased.
create table request_message (
  request_id binary(16) not null,
  seq int not null,
  author_id binary(16) not null,
  kind varchar(10) character set ascii collate ascii_bin not null,
  text varchar(2000) collate utf8mb4_bin not null,
  said_at datetime(6) not null,
  passed_to binary(16) null,
  position bigint not null,
  primary key (request_id, seq),
  foreign key (request_id) references access_request (id),
  foreign key (author_id) references thing (id),
  foreign key (passed_to) references thing (id),
  foreign key (position) references ledger_entry (position),
  check (kind in ('said', 'asked', 'answered', 'passed')),
  check ((kind = 'passed') = (passed_to is not null))
);

-- How far somebody has read.
create table request_read (
  request_id binary(16) not null,
  person_id binary(16) not null,
  messages int not null,
  read_at datetime(6) not null,
  primary key (request_id, person_id),
  foreign key (request_id) references access_request (id),
  foreign key (person_id) references thing (id)
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
