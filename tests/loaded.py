"""What the fork server of `tests.server` has loaded before it is asked for a process."""

import evtro.cli
import evtro.demo.library
import evtro.formats.elevation
import evtro.service.network
import evtro.service.serve  # noqa: F401
