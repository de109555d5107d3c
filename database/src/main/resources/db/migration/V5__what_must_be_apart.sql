-- What must not be in one hand, and who may all the same, until when.
create table separation_rule (
  rule_id binary(16) not null,
  name varchar(120) collate utf8mb4_bin not null,
  why varchar(500) collate utf8mb4_bin not null,
  -- ids of entitlements, with blanks between
  one text character set ascii collate ascii_bin not null,
  other text character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (rule_id, validity without overlaps),
  foreign key (rule_id) references thing (id)
);

create table excepted (
  rule_id binary(16) not null,
  person_id binary(16) not null,
  one_id binary(16) not null,
  other_id binary(16) not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (rule_id, person_id, one_id, other_id, validity without overlaps),
  foreign key (rule_id) references thing (id),
  foreign key (person_id) references thing (id)
);
