-- Every group and all groups above it, itself among them: what no query need work out any more.
create table now_above (g int not null, above int not null, primary key (g, above), key (above, g));
insert into now_above
with recursive up (g, above) as (
  select g, g from now_group
  union
  select up.g, e.parent from up join now_edge e on e.child = up.above
)
select g, above from up;
