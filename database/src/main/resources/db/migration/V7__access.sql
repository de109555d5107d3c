-- Grants, and what one person may not hold together.

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

-- What no one person may hold together, and who may all the same, until when.
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
