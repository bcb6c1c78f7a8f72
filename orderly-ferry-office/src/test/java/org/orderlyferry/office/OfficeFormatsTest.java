package org.orderlyferry.office;

import org.orderlyferry.testkit.contract.FormatContract;

class OfficeFormatsTest extends FormatContract {}
