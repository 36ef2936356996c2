"""A client that nobody of this project wrote talks to a simulated bench: PyVISA's, over a socket.

Usage: simulate-client.py PORT; prints one JSON object with what it was answered.
"""

import json
import sys

import pyvisa

manager = pyvisa.ResourceManager("@py")
bench = manager.open_resource(
    f"TCPIP::127.0.0.1::{sys.argv[1]}::SOCKET",
    read_termination="\n",
    write_termination="\n",
    timeout=10_000,
)
found = {"identity": bench.query("*IDN?").split(",")}
bench.write("*RST;*CLS")
bench.write("BENC:POW ON;:ROUT:PROB 'VM','0'")
found["volts"] = bench.query_ascii_values("MEASure:VOLTage:DC?")[0]
bench.write("CONF:VOLT:DC 40;:TRIG:COUN 3;DEL 0.05")
found["three"] = bench.query_ascii_values("READ?")
bench.write("NONSENSE:HEADER 1")
found["error"] = bench.query("SYST:ERR?")
found["events"] = int(bench.query("*ESR?"))
bench.write("BENC:POW OFF;:ROUT:PROB 'C1.1','C1.2'")
found["esr"] = bench.query_ascii_values("meas:imp:esr?")[0]
bench.write("ROUT:OPEN")
found["open"] = bench.query_ascii_values("MEAS:RES?")[0]
found["complete"] = bench.query("*OPC?")
found["version"] = bench.query("SYSTem:VERSion?")
print(json.dumps(found))
bench.close()
