package org.orderlyferry.columnar;

import org.orderlyferry.testkit.contract.FormatContract;

class ColumnarFormatsTest extends FormatContract {}
