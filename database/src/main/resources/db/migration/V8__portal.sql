-- Tiles, collections, front pages, their look and their use.

create table tile (
  tile_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  -- a word of the set that ships, or 'own:' and the SHA-256 of the picture's bytes
  picture varchar(70) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  application_id binary(16) not null,
  needs mediumtext character set ascii collate ascii_bin not null,
  address varchar(1000) collate utf8mb4_bin not null,
  contact varchar(200) collate utf8mb4_bin not null,
  apart boolean not null,
  dated boolean not null,
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
  object_id binary(16) not null,
  object_kind varchar(12) character set ascii collate ascii_bin not null,
  everyone boolean not null,
  subjects mediumtext collate utf8mb4_bin not null,
  first_days smallint not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (object_id, validity without overlaps),
  foreign key (object_id) references thing (id)
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

create table shown (
  tile_id binary(16) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (tile_id, validity without overlaps),
  foreign key (tile_id) references thing (id)
);

create table front (
  front_page_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  only_these boolean not null,
  in_waves boolean not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (front_page_id, validity without overlaps),
  foreign key (front_page_id) references thing (id)
);

create table front_rank (
  front_page_id binary(16) not null,
  place varchar(60) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (front_page_id, validity without overlaps),
  foreign key (front_page_id) references thing (id)
);

create table front_notice (
  front_page_id binary(16) not null,
  notice varchar(500) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (front_page_id, validity without overlaps),
  foreign key (front_page_id) references thing (id)
);

-- Whom a front page reaches from the day on which the row begins.
create table front_wave (
  front_page_id binary(16) not null,
  wave int not null,
  everyone boolean not null,
  subjects mediumtext collate utf8mb4_bin not null,
  first_days smallint not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (front_page_id, wave, validity without overlaps),
  foreign key (front_page_id) references thing (id)
);

-- When somebody last met a front page, at most once a day and after each change of it: no act.
create table front_seen (
  person_id binary(16) not null,
  front_page_id binary(16) not null,
  seen_at datetime(6) not null,
  -- Everyone's page need not be on record as a thing.
  primary key (front_page_id, person_id),
  foreign key (person_id) references thing (id)
);

-- Pictures by the SHA-256 of their bytes, which were written anew from what was uploaded.
create table picture (
  hash binary(32) not null primary key,
  svg boolean not null,
  bytes mediumblob not null,
  uploaded_at datetime(6) not null,
  uploaded_by binary(16) not null,
  foreign key (uploaded_by) references thing (id)
);

-- How the organisation shows itself: one row at any moment.
create table brand (
  organisation tinyint not null,
  name varchar(60) collate utf8mb4_bin not null,
  mark varchar(70) character set ascii collate ascii_bin not null,
  band char(7) character set ascii collate ascii_bin not null,
  welcome varchar(300) collate utf8mb4_bin not null,
  door varchar(70) character set ascii collate ascii_bin not null,
  help varchar(300) collate utf8mb4_bin not null,
  form varchar(10) character set ascii collate ascii_bin not null,
  tight boolean not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (organisation, validity without overlaps)
);

-- What was typed on the portal and found nothing: no act, and nobody's name with it.
create table sought (
  id bigint not null auto_increment primary key,
  happened_at datetime(6) not null,
  words varchar(40) collate utf8mb4_bin not null,
  key by_time (happened_at)
);

-- By what a person's tiles are read elsewhere: the SHA-256 of a token that only they know.
create table feed (
  person_id binary(16) not null primary key,
  token_hash char(64) character set ascii collate ascii_bin not null unique,
  made_at datetime(6) not null,
  used_at datetime(6) null,
  foreign key (person_id) references thing (id)
);

-- How each person has set up their own portal: no fact, nobody else's business.
create table own_portal (
  person_id binary(16) not null primary key,
  version bigint not null,
  said json not null,
  foreign key (person_id) references thing (id)
);

-- Openings of tiles: events, no acts.
create table opening (
  id bigint not null auto_increment primary key,
  happened_at datetime(6) not null,
  person_id binary(16) not null,
  tile_id binary(16) not null,
  key by_tile (tile_id, happened_at),
  key by_person (person_id, tile_id, happened_at),
  key by_time (happened_at, tile_id, person_id),
  foreign key (person_id) references thing (id),
  foreign key (tile_id) references thing (id)
);

-- How much is used, in counts that stay when the events are gone; saved queries and kept reports.

-- One row a day and tile, of days that are over, in the organisation's zone.
create table opening_day (
  tile_id binary(16) not null,
  on_day date not null,
  openings int not null,
  people int not null,
  primary key (tile_id, on_day),
  foreign key (tile_id) references thing (id)
);

create table complaint (
  id binary(16) not null primary key,
  number int not null unique,
  person_id binary(16) not null,
  tile_id binary(16) not null,
  application_id binary(16) not null,
  tile_name varchar(60) collate utf8mb4_bin not null,
  text varchar(1000) collate utf8mb4_bin not null,
  made_at datetime(6) not null,
  answered_at datetime(6) null,
  answered_by binary(16) null,
  answer varchar(1000) collate utf8mb4_bin not null,
  key waiting (answered_at, made_at),
  key by_person (person_id, made_at),
  foreign key (person_id) references thing (id),
  foreign key (tile_id) references thing (id),
  foreign key (application_id) references thing (id),
  foreign key (answered_by) references thing (id)
);
