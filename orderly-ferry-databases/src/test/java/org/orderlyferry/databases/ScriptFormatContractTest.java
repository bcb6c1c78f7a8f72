package org.orderlyferry.databases;

import org.orderlyferry.testkit.contract.FormatContract;

class ScriptFormatContractTest extends FormatContract {}
