package org.orderlyferry.documents.bson;

import java.util.LinkedHashMap;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Provide;
import net.jqwik.api.domains.DomainContextBase;
import org.bson.BsonArray;
import org.bson.BsonBinary;
import org.bson.BsonBoolean;
import org.bson.BsonDateTime;
import org.bson.BsonDbPointer;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonDouble;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonJavaScript;
import org.bson.BsonJavaScriptWithScope;
import org.bson.BsonMaxKey;
import org.bson.BsonMinKey;
import org.bson.BsonNull;
import org.bson.BsonObjectId;
import org.bson.BsonRegularExpression;
import org.bson.BsonString;
import org.bson.BsonSymbol;
import org.bson.BsonTimestamp;
import org.bson.BsonUndefined;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
import org.bson.types.ObjectId;

/** Values of every type that documents have, in one another. */
final class BsonValues extends DomainContextBase {

    @Provide
    Arbitrary<BsonValue> values() {
        return values(3);
    }

    private static Arbitrary<BsonValue> values(int depth) {
        Arbitrary<BsonValue> leaf = Arbitraries.oneOf(
                Arbitraries.integers().map(BsonInt32::new),
                Arbitraries.longs().map(BsonInt64::new),
                Arbitraries.longs().between(-5, 5).map(BsonInt64::new),
                Arbitraries.doubles().map(BsonDouble::new),
                Arbitraries.of(0.0, -0.0, 5.0, 1e300, Double.NaN, Double.NEGATIVE_INFINITY, Double.MIN_VALUE)
                        .map(BsonDouble::new),
                Arbitraries.of(
                                "0",
                                "-0",
                                "1.50",
                                "12345678901234567890",
                                "1E+400",
                                "-1E-6000",
                                "NaN",
                                "-Infinity",
                                "9.999999999999999999999999999999999E+6144",
                                "5",
                                "0.1")
                        .map(t -> new BsonDecimal128(Decimal128.parse(t))),
                Arbitraries.strings().ofMaxLength(8).filter(BsonValues::isWhole).map(BsonString::new),
                Arbitraries.of(true, false).map(BsonBoolean::valueOf),
                Arbitraries.longs().map(BsonDateTime::new),
                Arbitraries.longs()
                        .between(-99_999_999_999_999L, 999_999_999_999_999L)
                        .map(BsonDateTime::new),
                Arbitraries.bytes().array(byte[].class).ofMaxSize(20).map(BsonBinary::new),
                Combinators.combine(
                                Arbitraries.bytes(),
                                Arbitraries.bytes().array(byte[].class).ofSize(16))
                        .as(BsonBinary::new),
                Arbitraries.of(
                        BsonNull.VALUE,
                        new BsonUndefined(),
                        new BsonMinKey(),
                        new BsonMaxKey(),
                        new BsonObjectId(new ObjectId("65a1b2c3d4e5f60718293a4b")),
                        new BsonRegularExpression("^a/\"b", "im"),
                        new BsonTimestamp(-1, 7),
                        new BsonJavaScript("f(\"x\")"),
                        new BsonJavaScriptWithScope("f(x)", new BsonDocument("x", new BsonInt64(1))),
                        new BsonSymbol("s"),
                        new BsonDbPointer("old.sheet", new ObjectId("65a1b2c3d4e5f60718293a4b"))));
        if (depth == 0) {
            return leaf;
        }
        Arbitrary<String> name = Arbitraries.oneOf(
                Arbitraries.of("a", "b", "_id", "", "a.b", "$or", "$x", "größe", "with \"quotes\""),
                Arbitraries.strings().alpha().ofMaxLength(5));
        return Arbitraries.oneOf(
                leaf,
                values(depth - 1).list().ofMaxSize(4).map(BsonArray::new),
                Arbitraries.maps(name, values(depth - 1)).ofMaxSize(4).map(m -> {
                    BsonDocument document = new BsonDocument();
                    new LinkedHashMap<>(m).forEach(document::append);
                    return document;
                }));
    }

    private static boolean isWhole(String text) {
        return text.chars().noneMatch(c -> Character.isSurrogate((char) c));
    }
}
