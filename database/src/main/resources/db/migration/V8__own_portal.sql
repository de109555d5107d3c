-- What people call an application besides, one to a line.
alter table application add column nicknames varchar(600) collate utf8mb4_bin not null default '';

-- How each person has set up their own portal: no fact, nobody else's business.
create table own_portal (
  person_id binary(16) not null primary key,
  version bigint not null,
  said json not null,
  foreign key (person_id) references thing (id)
);
