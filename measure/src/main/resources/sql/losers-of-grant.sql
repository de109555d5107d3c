-- Who is in a group by any way and has the entitlement by no other grant.
select distinct m.p
from now_above a
join now_member m on m.g = a.g
where a.above = ?
  and not exists (select 1 from now_own o where o.p = m.p and o.e = ?)
  and not exists (
    select 1
    from now_member m2
    join now_above a2 on a2.g = m2.g and a2.above <> ?
    join now_to_group t on t.g = a2.above and t.e = ?
    where m2.p = m.p
  )
