package org.orderlyferry.format;

import org.orderlyferry.testkit.contract.FormatContract;

/** Core's own formats; they stand here since core can't use what uses core. */
class CoreFormatsTest extends FormatContract {}
