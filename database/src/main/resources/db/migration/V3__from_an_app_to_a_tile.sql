-- Applications, entitlements, grants; tiles and collections; requests; what is due; openings.

alter table thing modify kind varchar(12) character set ascii collate ascii_bin not null;
alter table ownership modify object_kind varchar(12) character set ascii collate ascii_bin not null;

create table application (
  application_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  picture varchar(20) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  weight varchar(10) character set ascii collate ascii_bin not null,
  contact varchar(200) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (application_id, validity without overlaps),
  foreign key (application_id) references thing (id),
  check (weight in ('light', 'middling', 'heavy'))
);

create table application_state (
  application_id binary(16) not null,
  state varchar(10) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (application_id, validity without overlaps),
  foreign key (application_id) references thing (id),
  check (state in ('proposed', 'open', 'paused', 'barred', 'retired'))
);

create table way_in (
  application_id binary(16) not null,
  way varchar(10) character set ascii collate ascii_bin not null,
  address varchar(1000) collate utf8mb4_bin null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (application_id, validity without overlaps),
  foreign key (application_id) references thing (id),
  check ((way = 'link') = (address is not null))
);

create table entitlement (
  entitlement_id binary(16) not null,
  application_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  weight varchar(10) character set ascii collate ascii_bin not null,
  requestable boolean not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (entitlement_id, validity without overlaps),
  foreign key (entitlement_id) references thing (id),
  foreign key (application_id) references thing (id),
  check (weight in ('light', 'middling', 'heavy'))
);

-- exactly one of person_id, group_id and filter says to whom
create table given (
  grant_id binary(16) not null,
  person_id binary(16) null,
  group_id binary(16) null,
  filter text collate utf8mb4_bin null,
  entitlement_id binary(16) not null,
  source varchar(10) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (grant_id, validity without overlaps),
  foreign key (grant_id) references thing (id),
  foreign key (person_id) references thing (id),
  foreign key (group_id) references thing (id),
  foreign key (entitlement_id) references thing (id),
  check ((person_id is not null) + (group_id is not null) + (filter is not null) = 1),
  check (source in ('hand', 'request', 'import', 'review'))
);

create table grant_reason (
  grant_id binary(16) not null,
  reason varchar(1000) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (grant_id, validity without overlaps),
  foreign key (grant_id) references thing (id)
);

create table tile (
  tile_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  picture varchar(20) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  application_id binary(16) not null,
  needs mediumtext character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (tile_id, validity without overlaps),
  foreign key (tile_id) references thing (id),
  foreign key (application_id) references thing (id)
);

create table collection (
  collection_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (collection_id, validity without overlaps),
  foreign key (collection_id) references thing (id)
);

create table audience (
  collection_id binary(16) not null,
  everyone boolean not null,
  subjects mediumtext collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (collection_id, validity without overlaps),
  foreign key (collection_id) references thing (id)
);

create table placed (
  collection_id binary(16) not null,
  tile_id binary(16) not null,
  place varchar(60) character set ascii collate ascii_bin not null,
  offered boolean not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (collection_id, tile_id, validity without overlaps),
  foreign key (collection_id) references thing (id),
  foreign key (tile_id) references thing (id)
);

create table fronted (
  front_page_id binary(16) not null,
  collection_id binary(16) not null,
  place varchar(60) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (front_page_id, collection_id, validity without overlaps),
  foreign key (front_page_id) references thing (id),
  foreign key (collection_id) references thing (id)
);

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

-- What the clock has to do: at which moment, what, about which fact or request, set by which act.
create table due (
  id bigint not null auto_increment primary key,
  due_at datetime(6) not null,
  kind varchar(20) character set ascii collate ascii_bin not null,
  subject text collate utf8mb4_bin not null,
  position bigint not null,
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

-- Openings of tiles: events, no acts.
create table opening (
  id bigint not null auto_increment primary key,
  happened_at datetime(6) not null,
  person_id binary(16) not null,
  tile_id binary(16) not null,
  key by_tile (tile_id, happened_at),
  key by_person (person_id, tile_id, happened_at),
  foreign key (person_id) references thing (id),
  foreign key (tile_id) references thing (id)
);

alter table outbox add column subject_id binary(16) null after person_id;
alter table outbox add column tale varchar(20) character set ascii collate ascii_bin null after subject_id;
