using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>Normal equations of a least-squares step, symmetric and positive: gathered in the lower triangle, solved by Cholesky's factors.</summary>
internal sealed class NormalEquations(int n)
{
    private readonly double[] a = new double[n * n];
    private readonly double[] factor = new double[n * n];
    private readonly double[] right = new double[n];

    public void Clear()
    {
        Array.Clear(a);
        Array.Clear(right);
    }

    /// <summary>One more residual along a direction: <paramref name="weight"/> · (∂·step + residual)².</summary>
    public void Add(Slopes slopes, Vector2 direction, double residual, double weight)
    {
        var used = slopes.Used;
        for (var i = 0; i < used.Count; i++)
        {
            double di = weight * Vector2.Dot(direction, slopes.Of[used[i]]);
            if (di == 0)
                continue;
            right[used[i]] -= di * residual;
            for (var j = 0; j <= i; j++)
                Lower(used[i], used[j]) += di * Vector2.Dot(direction, slopes.Of[used[j]]);
        }
    }

    /// <summary>One more residual of a single value, or of the difference of two.</summary>
    public void Add(int i, int? less, double residual, double weight)
    {
        a[(i * n) + i] += weight;
        right[i] -= weight * residual;
        if (less is not { } j)
            return;
        a[(j * n) + j] += weight;
        right[j] += weight * residual;
        Lower(i, j) -= weight;
    }

    private ref double Lower(int i, int j) => ref i >= j ? ref a[(i * n) + j] : ref a[(j * n) + i];

    /// <summary>Factors, damped more and more where it has to be; false when even that doesn't help.</summary>
    public bool Factor()
    {
        for (var damping = 1e-4; damping < 1e4; damping *= 20)
            if (Factor(damping))
                return true;
        return false;
    }

    private bool Factor(double damping)
    {
        for (var i = 0; i < n; i++)
        {
            for (var j = 0; j <= i; j++)
            {
                var sum = a[(i * n) + j] + (i == j ? (a[(i * n) + i] * damping) + 1e-6 : 0);
                ReadOnlySpan<double> ri = factor.AsSpan(i * n, j),
                    rj = factor.AsSpan(j * n, j);
                for (var k = 0; k < j; k++)
                    sum -= ri[k] * rj[k];
                if (i != j)
                    factor[(i * n) + j] = sum / factor[(j * n) + j];
                else if (sum <= 1e-12)
                    return false;
                else
                    factor[(i * n) + i] = Math.Sqrt(sum);
            }
        }
        return true;
    }

    /// <summary>The step that makes the sum of squares least.</summary>
    public double[] Step()
    {
        var b = (double[])right.Clone();
        Forward(b);
        for (var i = n - 1; i >= 0; i--)
        {
            for (var k = i + 1; k < n; k++)
                b[i] -= factor[(k * n) + i] * b[k];
            b[i] /= factor[(i * n) + i];
        }
        return b;
    }

    private void Forward(double[] b)
    {
        for (var i = 0; i < n; i++)
        {
            var row = factor.AsSpan(i * n, i);
            for (var k = 0; k < i; k++)
                b[i] -= row[k] * b[k];
            b[i] /= factor[(i * n) + i];
        }
    }

    /// <summary>Mean of the two variances of a place, from the inverse of the equations.</summary>
    public double Variance(Slopes slopes)
    {
        double sum = 0;
        foreach (var axis in (ReadOnlySpan<Vector2>)[Vector2.UnitX, Vector2.UnitY])
        {
            var b = new double[n];
            foreach (var i in slopes.Used)
                b[i] = Vector2.Dot(axis, slopes.Of[i]);
            Forward(b);
            sum += b.Sum(v => v * v);
        }
        return sum / 2;
    }
}
