-- Applications and what they offer.

create table application (
  application_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  picture varchar(20) character set ascii collate ascii_bin not null,
  hue varchar(10) character set ascii collate ascii_bin not null,
  sensitivity varchar(10) character set ascii collate ascii_bin not null,
  contact varchar(200) collate utf8mb4_bin not null,
  nicknames varchar(600) collate utf8mb4_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (application_id, validity without overlaps),
  foreign key (application_id) references thing (id),
  check (sensitivity in ('low', 'medium', 'high'))
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
  check (state in ('proposed', 'open', 'paused', 'blocked', 'retired'))
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

-- Seats of an application that are paid for; the price of one for a month in hundredths.
create table seats (
  application_id binary(16) not null,
  seat_count int not null,
  price bigint not null,
  currency char(3) character set ascii collate ascii_bin not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (application_id, validity without overlaps),
  foreign key (application_id) references thing (id),
  check (seat_count > 0 and price >= 0)
);

create table entitlement (
  entitlement_id binary(16) not null,
  application_id binary(16) not null,
  name varchar(60) collate utf8mb4_bin not null,
  line varchar(200) collate utf8mb4_bin not null,
  sensitivity varchar(10) character set ascii collate ascii_bin not null,
  requestable boolean not null,
  valid_from datetime(6) not null,
  valid_until datetime(6) not null,
  opened bigint not null,
  ended bigint null,
  period for validity (valid_from, valid_until),
  primary key (entitlement_id, validity without overlaps),
  foreign key (entitlement_id) references thing (id),
  foreign key (application_id) references thing (id),
  check (sensitivity in ('low', 'medium', 'high'))
);
