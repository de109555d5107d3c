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
