-- What administrators may do, and on what.

create table mandate (
  mandate_id binary(16) not null,
  name varchar(80) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  powers text character set ascii collate ascii_bin not null,
  reach mediumtext collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (mandate_id, validity without overlaps),
  foreign key (mandate_id) references thing (id)
);

create table mandate_held (
  mandate_id binary(16) not null,
  holder_id binary(16) not null,
  holder_kind varchar(10) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (mandate_id, holder_id, validity without overlaps),
  foreign key (mandate_id) references thing (id),
  foreign key (holder_id) references thing (id)
);
