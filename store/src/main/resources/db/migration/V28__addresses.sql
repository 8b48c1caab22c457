-- the facts that tell addresses, out of hundreds of thousands of others
create index instance_fact_address on instance_fact (instance, name)
  where to_at is null and (name like 'leads to/%' or value like '%jdbc:%');
