-- People, groups and their sources.

-- Facts: one row each, true from valid_from until just before valid_until (open: 9999-12-31), opened and ended
-- by the ledger positions beside them. At any moment a key has at most one row.

create table thing (
  id binary(16) not null primary key,
  kind varchar(12) character set ascii collate ascii_bin not null
);

create table existence (
  object_id binary(16) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (object_id, validity without overlaps),
  foreign key (object_id) references thing (id)
);

create table naming (
  person_id binary(16) not null,
  given varchar(200) collate utf8mb4_bin not null,
  family varchar(200) collate utf8mb4_bin not null,
  displayed varchar(1000) collate utf8mb4_bin not null,
  name_key varbinary(400) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (person_id, validity without overlaps),
  foreign key (person_id) references thing (id)
);

create table status (
  person_id binary(16) not null,
  status varchar(10) character set ascii collate ascii_bin not null,
  stated date null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (person_id, validity without overlaps),
  foreign key (person_id) references thing (id),
  check (status in ('expected', 'active', 'paused', 'departed'))
);

-- slot is empty where the attribute has one value, and tells the values apart where it has many
create table attribute (
  person_id binary(16) not null,
  name varchar(40) character set ascii collate ascii_bin not null,
  slot varchar(16) character set ascii collate ascii_bin not null,
  value varchar(1000) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (person_id, name, slot, validity without overlaps),
  foreign key (person_id) references thing (id)
);

create table attribute_definition (
  name varchar(40) character set ascii collate ascii_bin not null,
  label varchar(60) collate utf8mb4_bin not null,
  type varchar(10) character set ascii collate ascii_bin not null,
  many boolean not null,
  personal boolean not null,
  source_id binary(16) null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (name, validity without overlaps),
  foreign key (source_id) references thing (id)
);

create table source (
  source_id binary(16) not null,
  name varchar(80) collate utf8mb4_bin not null,
  columns mediumtext collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (source_id, validity without overlaps),
  foreign key (source_id) references thing (id)
);

create table source_link (
  source_id binary(16) not null,
  thing varchar(10) character set ascii collate ascii_bin not null,
  source_key varchar(600) collate utf8mb4_bin not null,
  object_id binary(16) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (source_id, thing, source_key, validity without overlaps),
  foreign key (source_id) references thing (id),
  foreign key (object_id) references thing (id)
);

create table group_name (
  group_id binary(16) not null,
  name varchar(120) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (group_id, validity without overlaps),
  foreign key (group_id) references thing (id)
);

create table group_form (
  group_id binary(16) not null,
  form varchar(10) character set ascii collate ascii_bin not null,
  source_id binary(16) null,
  filter text collate utf8mb4_bin null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (group_id, validity without overlaps),
  foreign key (group_id) references thing (id),
  foreign key (source_id) references thing (id),
  check (form in ('listed', 'mirrored', 'filter')),
  check ((form = 'mirrored') = (source_id is not null)),
  check ((form = 'filter') = (filter is not null))
);

create table membership (
  group_id binary(16) not null,
  member_id binary(16) not null,
  member_kind varchar(10) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (group_id, member_id, validity without overlaps),
  foreign key (group_id) references thing (id),
  foreign key (member_id) references thing (id)
);

create table ownership (
  object_id binary(16) not null,
  object_kind varchar(12) character set ascii collate ascii_bin not null,
  owner_id binary(16) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (object_id, owner_id, validity without overlaps),
  foreign key (object_id) references thing (id),
  foreign key (owner_id) references thing (id)
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
