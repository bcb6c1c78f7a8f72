package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BrokenSetException;

/** Logical types as CSVW's datatypes, and back. */
final class CsvwDatatype {

    private static final String UUID_FORMAT = "[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}";

    private CsvwDatatype() {}

    static JsonNode of(LogicalType type) {
        ObjectNode datatype = JsonNodeFactory.instance.objectNode();
        datatype.put("base", base(type.name()));
        if ((type.name().isText() || type.name().isBinary()) && type.isSized()) {
            datatype.put("maxLength", type.size());
        }
        if (type.name() == TypeName.UUID) {
            datatype.put("format", UUID_FORMAT);
        }
        return datatype.size() == 1 ? datatype.get("base") : datatype;
    }

    private static String base(TypeName name) {
        return switch (name) {
            case BOOLEAN -> "boolean";
            case SMALLINT -> "short";
            case INTEGER -> "int";
            case BIGINT -> "long";
            case DECIMAL -> "decimal";
            case REAL -> "float";
            case DOUBLE -> "double";
            case CHARACTER, VARCHAR, CLOB, UUID -> "string";
            case BINARY, VARBINARY, BLOB -> "base64Binary";
            case DATE -> "date";
            case TIME -> "time";
            case TIMESTAMP -> "dateTime";
            case TIMESTAMP_WITH_TIME_ZONE -> "dateTimeStamp";
            case INTERVAL -> "duration";
            case JSON, ARRAY -> "json";
            case XML -> "xml";
        };
    }

    /** The type that a CSVW datatype of somebody else's stands for. */
    static LogicalType read(JsonNode datatype, String set) {
        String base =
                datatype.isTextual() ? datatype.asText() : datatype.path("base").asText("string");
        int length = datatype.path("maxLength").asInt(datatype.path("length").asInt(LogicalType.UNBOUNDED));
        return switch (base) {
            case "boolean" -> LogicalType.BOOLEAN;
            case "byte", "unsignedByte", "short" -> LogicalType.SMALLINT;
            case "unsignedShort", "int" -> LogicalType.INTEGER;
            case "unsignedInt", "long" -> LogicalType.BIGINT;
            case "integer",
                    "decimal",
                    "unsignedLong",
                    "nonNegativeInteger",
                    "positiveInteger",
                    "nonPositiveInteger",
                    "negativeInteger" -> LogicalType.of(TypeName.DECIMAL);
            case "float" -> LogicalType.REAL;
            case "double", "number" -> LogicalType.DOUBLE;
            case "base64Binary", "binary" -> LogicalType.of(TypeName.VARBINARY, length);
            case "date" -> LogicalType.DATE;
            case "time" -> LogicalType.of(TypeName.TIME);
            case "dateTime", "datetime" -> LogicalType.of(TypeName.TIMESTAMP);
            case "dateTimeStamp" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE);
            case "duration", "dayTimeDuration", "yearMonthDuration" -> LogicalType.INTERVAL;
            case "json" -> LogicalType.JSON;
            case "xml" -> LogicalType.XML;
            case "string",
                    "normalizedString",
                    "token",
                    "language",
                    "Name",
                    "NMTOKEN",
                    "anyURI",
                    "QName",
                    "any",
                    "anyAtomicType",
                    "html",
                    "hexBinary",
                    "gDay",
                    "gMonth",
                    "gMonthDay",
                    "gYear",
                    "gYearMonth" -> length == LogicalType.UNBOUNDED ? LogicalType.CLOB : LogicalType.varchar(length);
            default -> throw new BrokenSetException(set, "its definitions have a datatype that CSVW doesn't: " + base);
        };
    }
}
