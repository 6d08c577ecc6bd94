"""A headless Chromium of one's own, gone with all its helpers afterwards."""

import os
import signal
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

FLAGS = (
    "--headless=new --no-sandbox --disable-gpu --disable-dev-shm-usage --disable-background-networking "
    "--disable-component-update --disable-sync --disable-quic --no-first-run --hide-scrollbars "
    "--force-device-scale-factor=1"
)


@contextmanager
def chrome(kept_profile: str | None = None) -> Iterator[webdriver.Chrome]:
    """Yield a browser with a fresh profile, or with one that stays."""
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as fresh:
        for flag in [*FLAGS.split(), f"--user-data-dir={kept_profile or fresh}"]:
            options.add_argument(flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        service = Service("/usr/bin/chromedriver", popen_kw={"start_new_session": True})
        driver = webdriver.Chrome(options=options, service=service)
        group = service.process.pid
        try:
            yield driver
            driver.quit()
        finally:
            with suppress(ProcessLookupError):
                os.killpg(group, signal.SIGKILL)
