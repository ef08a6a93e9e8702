namespace MintHarbor.Core;

/// <summary>The assignment problem, solved exactly: who gets which place, which slot which pose.</summary>
public static class HungarianMethod
{
    /// <summary>Gives every row a column of its own so that the sum of costs is least, by the Hungarian method with potentials and
    /// shortest augmenting paths (Kuhn 1955, Jonker and Volgenant 1987, from memory); O(n²·m).</summary>
    /// <param name="cost">Rows × columns, finite, at least as many columns as rows.</param>
    /// <returns>The column of each row.</returns>
    /// <exception cref="ArgumentException">More rows than columns, or a cost that is not finite.</exception>
    public static int[] Solve(double[,] cost)
    {
        int n = cost.GetLength(0),
            m = cost.GetLength(1);
        if (n > m)
            throw new ArgumentException($"{n} rows can't each have one of {m} columns");
        foreach (var c in cost)
            if (!double.IsFinite(c))
                throw new ArgumentException("a cost is not finite");
        // Row and column 0 are outside the matrix: the path starts there.
        double[] u = new double[n + 1],
            v = new double[m + 1];
        int[] rowOf = new int[m + 1],
            before = new int[m + 1];
        for (var i = 1; i <= n; i++)
        {
            rowOf[0] = i;
            var at = 0;
            var least = new double[m + 1];
            Array.Fill(least, double.PositiveInfinity);
            var done = new bool[m + 1];
            do
            {
                done[at] = true;
                var row = rowOf[at];
                var delta = double.PositiveInfinity;
                var next = 0;
                for (var j = 1; j <= m; j++)
                {
                    if (done[j])
                        continue;
                    var reduced = cost[row - 1, j - 1] - u[row] - v[j];
                    if (reduced < least[j])
                        (least[j], before[j]) = (reduced, at);
                    if (least[j] < delta)
                        (delta, next) = (least[j], j);
                }
                for (var j = 0; j <= m; j++)
                {
                    if (done[j])
                    {
                        u[rowOf[j]] += delta;
                        v[j] -= delta;
                    }
                    else
                        least[j] -= delta;
                }
                at = next;
            } while (rowOf[at] != 0);
            for (; at != 0; at = before[at])
                rowOf[at] = rowOf[before[at]];
        }
        var column = new int[n];
        for (var j = 1; j <= m; j++)
            if (rowOf[j] > 0)
                column[rowOf[j] - 1] = j - 1;
        return column;
    }
}
