-- The organisation, and half-filled forms.

-- What is no fact: accounts, links, sign-ins, sessions, staged files, errands, repeats.

create table setting (
  name varchar(40) character set ascii collate ascii_bin not null primary key,
  value text collate utf8mb4_bin not null
);

-- Half-filled forms, kept for the person who fills them on whatever device: no act.
create table unsent_form (
  person_id binary(16) not null,
  name varchar(80) collate utf8mb4_bin not null,
  fields mediumtext collate utf8mb4_bin not null,
  saved_at datetime(6) not null,
  primary key (person_id, name),
  foreign key (person_id) references thing (id)
);
