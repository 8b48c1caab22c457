package jamjar.store.mapping;

import java.sql.Array;
import java.sql.CallableStatement;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import org.apache.ibatis.type.BaseTypeHandler;
import org.apache.ibatis.type.JdbcType;

/** PostgreSQL arrays as primitive arrays and back, without boxing on the way in. */
public final class ArrayHandlers {

  private ArrayHandlers() {}

  private abstract static class Handler<T> extends BaseTypeHandler<T> {
    private final String element;

    Handler(String element) {
      this.element = element;
    }

    abstract T from(Object[] boxed);

    @Override
    public void setNonNullParameter(PreparedStatement to, int i, T value, JdbcType type)
        throws SQLException {
      to.setArray(i, to.getConnection().createArrayOf(element, boxedOrPrimitive(value)));
    }

    /** The driver sends primitive arrays as they are when handed over as an object. */
    Object[] boxedOrPrimitive(T value) {
      return (Object[]) value;
    }

    @Override
    public T getNullableResult(ResultSet rows, String column) throws SQLException {
      return read(rows.getArray(column));
    }

    @Override
    public T getNullableResult(ResultSet rows, int column) throws SQLException {
      return read(rows.getArray(column));
    }

    @Override
    public T getNullableResult(CallableStatement call, int column) throws SQLException {
      return read(call.getArray(column));
    }

    private T read(Array array) throws SQLException {
      return array == null ? null : from((Object[]) array.getArray());
    }
  }

  private abstract static class Primitive<T> extends Handler<T> {
    private final String element;

    Primitive(String element) {
      super(element);
      this.element = element;
    }

    @Override
    public void setNonNullParameter(PreparedStatement to, int i, T value, JdbcType type)
        throws SQLException {
      var connection = to.getConnection().unwrap(org.postgresql.PGConnection.class);
      to.setArray(i, connection.createArrayOf(element, value));
    }
  }

  /** {@code float8[]}; NULL elements come back as NaN. */
  public static final class Doubles extends Primitive<double[]> {
    public Doubles() {
      super("float8");
    }

    @Override
    public double[] getNullableResult(ResultSet rows, String column) throws SQLException {
      return getNullableResult(rows, rows.findColumn(column));
    }

    /** As sent where it was sent so: a box for each value would take longer than all the rest. */
    @Override
    public double[] getNullableResult(ResultSet rows, int column) throws SQLException {
      byte[] sent = rows.getBytes(column);
      return sent != null && SentDoubles.is(sent)
          ? SentDoubles.of(sent)
          : super.getNullableResult(rows, column);
    }

    @Override
    double[] from(Object[] boxed) {
      double[] values = new double[boxed.length];
      for (int i = 0; i < boxed.length; i++) {
        values[i] = boxed[i] == null ? Double.NaN : (Double) boxed[i];
      }
      return values;
    }
  }

  /** {@code bigint[]}. */
  public static final class Longs extends Primitive<long[]> {
    public Longs() {
      super("int8");
    }

    @Override
    long[] from(Object[] boxed) {
      long[] values = new long[boxed.length];
      for (int i = 0; i < boxed.length; i++) {
        values[i] = (Long) boxed[i];
      }
      return values;
    }
  }

  /** {@code int[]}. */
  public static final class Ints extends Primitive<int[]> {
    public Ints() {
      super("int4");
    }

    @Override
    int[] from(Object[] boxed) {
      int[] values = new int[boxed.length];
      for (int i = 0; i < boxed.length; i++) {
        values[i] = (Integer) boxed[i];
      }
      return values;
    }
  }

  /** {@code bytea[]}. */
  public static final class Bytes extends Handler<byte[][]> {
    public Bytes() {
      super("bytea");
    }

    @Override
    byte[][] from(Object[] boxed) {
      return java.util.Arrays.copyOf(boxed, boxed.length, byte[][].class);
    }
  }

  /** {@code text[]}. */
  public static final class Texts extends Handler<String[]> {
    public Texts() {
      super("text");
    }

    @Override
    String[] from(Object[] boxed) {
      return java.util.Arrays.copyOf(boxed, boxed.length, String[].class);
    }
  }
}
