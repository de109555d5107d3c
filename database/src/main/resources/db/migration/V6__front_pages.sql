-- Who is shown a collection, meets a front page, or sees a tile that needs nothing.
alter table audience
  drop foreign key if exists audience_ibfk_1,
  change column collection_id object_id binary(16) not null,
  add column object_kind varchar(12) character set ascii collate ascii_bin not null default 'collection'
    after object_id,
  add column first_days smallint not null default 0 after subjects,
  add foreign key (object_id) references thing (id);
alter table audience alter column object_kind drop default;

alter table tile
  -- a word of the set that ships, or 'own:' and the SHA-256 of the picture's bytes
  modify column picture varchar(70) character set ascii collate ascii_bin not null,
  add column address varchar(1000) collate utf8mb4_bin not null default '' after needs,
  add column contact varchar(200) collate utf8mb4_bin not null default '' after address,
  add column apart boolean not null default false after contact,
  add column dated boolean not null default false after apart;

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
