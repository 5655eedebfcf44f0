"""The yardsticks for reading a table: pandas, and DuckDB on two threads. One line of JSON in, one out."""
import json
import sys
import time

WORK = {}
try:
    import pandas

    WORK["pandas"] = lambda path: len(pandas.read_csv(path))
except ImportError:
    pass
try:
    import duckdb

    def with_duckdb(path):
        with duckdb.connect() as c:
            c.execute("SET threads=2")
            c.execute("CREATE TABLE t AS SELECT * FROM read_csv(?)", [path])
            return c.execute("SELECT count(*) FROM t").fetchone()[0]

    WORK["duckdb"] = with_duckdb
except ImportError:
    pass
for line in sys.stdin:
    ask = json.loads(line)
    work = WORK.get(ask["what"])
    began = time.perf_counter()
    rows = work(ask["path"]) if work else None
    print(json.dumps({"seconds": time.perf_counter() - began if work else None, "rows": rows}), flush=True)
