-- Links of one's own, the approved list and suggested apps.

-- Apps that people bring, and problems that they report.
create table self_service (
  organisation tinyint not null,
  rules mediumtext collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (organisation, validity without overlaps)
);

create table approved (
  listing_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  address varchar(1000) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  category varchar(30) collate utf8mb4_bin not null,
  picture varchar(20) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (listing_id, validity without overlaps),
  foreign key (listing_id) references thing (id)
);

-- Links that people keep for themselves: no fact, nobody else's business.
create table own_link (
  person_id binary(16) not null,
  id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  address varchar(1000) collate utf8mb4_bin not null,
  picture varchar(20) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  made_at datetime(6) not null,
  primary key (person_id, id),
  foreign key (person_id) references thing (id)
);

create table suggestion (
  id binary(16) not null primary key,
  number int not null unique,
  person_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  address varchar(1000) collate utf8mb4_bin not null,
  whom varchar(200) collate utf8mb4_bin not null,
  why varchar(1000) collate utf8mb4_bin not null,
  made_at datetime(6) not null,
  state varchar(10) character set ascii collate ascii_bin not null,
  state_at datetime(6) null,
  state_by binary(16) null,
  answer varchar(1000) collate utf8mb4_bin not null,
  application_id binary(16) null,
  key by_state (state, made_at),
  key by_person (person_id, made_at),
  foreign key (person_id) references thing (id),
  foreign key (state_by) references thing (id),
  foreign key (application_id) references thing (id)
);
