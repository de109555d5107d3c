select t.e from now_member m join now_above a on a.g = m.g join now_to_group t on t.g = a.above where m.p = ?
union
select e from now_own where p = ?
