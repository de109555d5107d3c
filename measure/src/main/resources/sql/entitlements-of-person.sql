with recursive up (g) as (
  select g from now_member where p = ?
  union
  select e.parent from up join now_edge e on e.child = up.g
)
select t.e from up join now_to_group t on t.g = up.g
union
select e from now_own where p = ?
